// Where words may be divided, by the patterns for a language that are installed (libhyphen).
#pragma once

#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

/// Reads the patterns of a language when they are first asked for. Safe to use from several threads.
class Hyphenator {
  public:
    /// Patterns are files named hyph_LANGUAGE.dic below `folder`.
    explicit Hyphenator(std::string folder = "/usr/share/hyphen");
    ~Hyphenator();
    Hyphenator(const Hyphenator&) = delete;
    Hyphenator& operator=(const Hyphenator&) = delete;

    /// Before which units of a word it may be divided. Nothing when there are no patterns for `language`
    /// (BCP 47) on this machine or none is named.
    std::vector<size_t> divisions(std::u16string_view word, const std::string& language) const;
    /// Whether there are patterns that can be read; they are, which takes up to half a second.
    bool knows(const std::string& language) const { return patterns(language) != nullptr; }
    /// Whether there is a file of them; it is left alone.
    bool has(const std::string& language) const;

  private:
    struct Patterns;
    const Patterns* patterns(const std::string& language) const;

    std::string folder_;
    mutable std::mutex mutex_;
    mutable std::map<std::string, std::unique_ptr<const Patterns>>
        known_; ///< by language; nothing where there are none
};

} // namespace glyptos
