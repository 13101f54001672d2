// JSON from outside, read with the place of whatever is wrong.
#pragma once

#include "base/json.h"

#include <array>
#include <span>
#include <string>

namespace glyptos {

/// Thrown while JSON is read, and caught by guarded(): what is wrong, and where, as part of a sentence.
struct Wrong {
    Fault fault;
    std::string what;
};

/// A value and where it stands. Every reading of it throws Wrong when the value is not so. An entry must not
/// outlive the one that it was taken from.
class Entry {
  public:
    Entry(const Json& json, const char* name)
        : json_(json)
        , name_(name) {}

    /// "release.pieces[3].takes": where it stands.
    std::string path() const;
    std::string path(const char* key) const { return path() + "." + key; }
    [[noreturn]] void wrong(const std::string& what, Fault fault = Fault::Damaged) const;

    /// All of it, as JSON text.
    std::string json() const { return json_.dump(); }
    std::string text() const;
    double number() const; ///< finite
    int whole(int least, int most) const;
    bool flag() const;
    bool isNumber() const { return json_.isNumber(); }

    /// A member; it must be there.
    Entry at(const char* key) const&;
    Entry at(const char* key) && = delete;
    bool has(const char* key) const;
    /// No members but these.
    void only(std::span<const char* const> known) const;

    std::string text(const char* key) const { return at(key).text(); }
    std::string textOr(const char* key, std::string otherwise) const;
    double number(const char* key) const { return at(key).number(); }
    double numberOr(const char* key, double otherwise) const { return has(key) ? number(key) : otherwise; }
    int whole(const char* key, int least, int most) const { return at(key).whole(least, most); }
    bool flag(const char* key) const { return at(key).flag(); }
    bool flagOr(const char* key, bool otherwise) const { return has(key) ? flag(key) : otherwise; }
    double between(const char* key, double least, double most) const;
    double positive(const char* key) const;
    /// The place of the text in a list of names.
    size_t oneOf(const char* key, std::span<const char* const> names) const;
    template <class Enum>
    Enum oneOf(const char* key, std::span<const char* const> names) const {
        return static_cast<Enum>(oneOf(key, names));
    }

    /// A list of exactly so many numbers.
    void numbers(std::span<double> out) const;
    template <size_t N>
    std::array<double, N> numbers(const char* key) const {
        std::array<double, N> out{};
        at(key).numbers(out);
        return out;
    }
    std::vector<std::string> texts(const char* key) const;

    /// The item of a list of exactly `size` items.
    Entry item(size_t index, size_t size) const&;
    Entry item(size_t index, size_t size) && = delete;
    /// Calls read(entry) for each item of a list.
    template <class Read>
    void each(Read read) const {
        size_t i = 0;
        for (const Json& item : list()) read(Entry(item, *this, i++));
    }
    template <class Read>
    void each(const char* key, Read read) const {
        at(key).each(read);
    }
    /// Calls read(key, entry) for each member of an object.
    template <class Read>
    void members(const char* key, Read read) const {
        const Entry object = at(key);
        for (const auto& [name, value] : object.object()) read(name, Entry(value, object, name.c_str()));
    }

  private:
    static constexpr size_t kNoItem = size_t(-1);
    Entry(const Json& json, const Entry& parent, const char* name)
        : json_(json)
        , parent_(&parent)
        , name_(name) {}
    Entry(const Json& json, const Entry& parent, size_t item)
        : json_(json)
        , parent_(&parent)
        , item_(item) {}
    const Json::List& list() const;
    const Json::Members& object() const;

    const Json& json_;
    const Entry* parent_ = nullptr;
    const char* name_ = nullptr; ///< of a member, or of the outermost value
    size_t item_ = kNoItem;      ///< of a list
};

/// What read(entry) gives for JSON text whose outermost value is called `name`. Errors are parts of a
/// sentence.
template <class Read>
auto guarded(std::string_view text, const char* name, Read read)
    -> Result<decltype(read(std::declval<const Entry&>()))> {
    const auto json = parseJson(text);
    if (!json) return tl::unexpected(json.error());
    try {
        return read(Entry(*json, name));
    } catch (const Wrong& w) {
        return fail(w.fault, w.what);
    }
}

} // namespace glyptos
