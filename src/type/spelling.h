// Whether words are spelt as the dictionary of their language has it, where one is installed (Hunspell).
#pragma once

#include "type/text_spec.h"

#include <map>
#include <memory>
#include <mutex>

namespace glyptos {

/// Bytes of a text.
struct Misspelt {
    size_t from = 0, to = 0;
    bool operator==(const Misspelt&) const = default;
};

/// Reads the dictionary of a language when it is first asked for, which takes a while. Safe to use from
/// several threads.
class Spelling {
  public:
    /// Dictionaries are pairs of files, LANGUAGE.aff and LANGUAGE.dic, in `folder`; those of a language serve
    /// where its country has none.
    explicit Spelling(std::string folder = "/usr/share/hunspell");
    ~Spelling();
    Spelling(const Spelling&) = delete;
    Spelling& operator=(const Spelling&) = delete;

    /// Whether there is a dictionary for `language` (BCP 47).
    bool knows(const std::string& language) const { return dictionary(language) != nullptr; }
    /// Words of the text that the dictionary of their letters' language does not have, as Unicode parts words
    /// (UAX 29); not those with figures, nor those of letters without a language or a dictionary, nor what
    /// stands in braces, as fields do.
    std::vector<Misspelt> misspelt(const TextSpec& spec) const;
    /// What may have been meant by a word (UTF-8), likeliest first, at most `most`.
    std::vector<std::string> suggestions(const std::string& word, const std::string& language,
                                         size_t most) const;

  private:
    struct Dictionary;
    Dictionary* dictionary(const std::string& language) const;

    std::string folder_;
    mutable std::mutex mutex_;                                         ///< of the list, and of what is in it
    mutable std::map<std::string, std::unique_ptr<Dictionary>> known_; ///< nothing where there is none
};

} // namespace glyptos
