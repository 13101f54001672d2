// JSON values (RFC 8259): read, put together and written. The members of an object keep their order.
#pragma once

#include "base/error.h"

#include <cstdint>
#include <initializer_list>
#include <string>
#include <string_view>
#include <utility>
#include <variant>
#include <vector>

namespace glyptos {

class Json {
  public:
    using List = std::vector<Json>;
    using Members = std::vector<std::pair<std::string, Json>>;

    Json() = default; ///< null
    Json(bool value)
        : value_(value) {}
    Json(double value)
        : value_(value) {}
    Json(int value)
        : value_(int64_t(value)) {}
    Json(int64_t value)
        : value_(value) {}
    Json(uint32_t value)
        : value_(int64_t(value)) {}
    Json(size_t value)
        : value_(int64_t(value)) {}
    Json(const char* text)
        : value_(std::string(text)) {}
    Json(std::string text)
        : value_(std::move(text)) {}
    Json(std::string_view text)
        : value_(std::string(text)) {}
    Json(List items)
        : value_(std::move(items)) {}
    Json(const std::vector<std::string>& texts);
    /// An object: {{"key", value}, …}.
    Json(std::initializer_list<Members::value_type> members)
        : value_(Members(members)) {}

    static Json list(std::initializer_list<Json> items = {}) { return Json(List(items)); }
    static Json object() { return Json(std::initializer_list<Members::value_type>{}); }

    template <class T>
    const T* as() const {
        return std::get_if<T>(&value_);
    }
    bool isNumber() const { return as<double>() || as<int64_t>(); }
    /// Of a number; 0 of anything else.
    double number() const;
    /// The member of an object with that key; nothing when there is none, or when this is no object.
    const Json* find(std::string_view key) const;

    /// Sets a member; a null value becomes an object first.
    Json& operator[](std::string_view key);
    Json& operator[](int) = delete; // 0 would be a null pointer to text
    /// Adds to a list; a null value becomes one first.
    void push_back(Json item);
    /// Sets all members of another object.
    void update(const Json& members);

    /// As text; `indent` blanks a level, or everything in one line when that is negative. Text that is not
    /// UTF-8 is written with U+FFFD in place of what cannot be read.
    std::string dump(int indent = -1) const;

  private:
    std::variant<std::monostate, bool, int64_t, double, std::string, List, Members> value_;
};

/// Fails with a part of a sentence ("its text is not valid JSON"), also for text nested deeper than
/// kDeepestJson. Of members with one key the last counts.
inline constexpr size_t kDeepestJson = 500;
[[nodiscard]] Result<Json> parseJson(std::string_view text);

} // namespace glyptos
