#include "type/hyphenator.h"

#include <algorithm>
#include <cstring>
#include <filesystem>
#include <hyphen.h>
#include <unicode/uchar.h>
#include <unicode/unistr.h>

namespace glyptos {
namespace {

/// Whether it may be part of a file's name.
bool isName(const std::string& language) {
    return !language.empty() && std::all_of(language.begin(), language.end(), [](char c) {
        return c == '-' || (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    });
}

/// The file of that very language and country, or else the first of the language.
std::string fileFor(const std::string& folder, std::string language) {
    std::replace(language.begin(), language.end(), '-', '_');
    std::string exact = folder + "/hyph_" + language + ".dic";
    std::error_code code;
    if (std::filesystem::exists(exact, code)) return exact;
    const std::string begin = "hyph_" + language.substr(0, language.find('_')) + "_";
    std::vector<std::string> found;
    for (const auto& entry : std::filesystem::directory_iterator(folder, code))
        if (const auto name = entry.path().filename().string();
            name.starts_with(begin) && name.ends_with(".dic"))
            found.push_back(entry.path().string());
    return found.empty() ? std::string() : *std::min_element(found.begin(), found.end());
}

/// In the letters that the patterns are written in; nothing when one of them is not among those. `unit` gets
/// for each character the unit of the word that it stands at.
std::string encoded(std::u16string_view word, const HyphenDict& patterns, std::vector<size_t>& unit) {
    icu::UnicodeString small(false, word.data(), int32_t(word.size()));
    small.toLower();
    if (size_t(small.length()) != word.size()) return {};
    for (int32_t i = 0; i < small.length(); i = small.moveIndex32(i, 1)) unit.push_back(size_t(i));
    std::string out;
    if (patterns.utf8) return small.toUTF8String(out);
    out.resize(word.size());
    const int32_t n = small.extract(0, small.length(), out.data(), uint32_t(out.size()), patterns.cset);
    const bool isLost =
        n != small.length() || out.find('\x1a') != out.npos; // the mark for what has no letter
    return isLost ? std::string() : out;
}

} // namespace

struct Hyphenator::Patterns {
    struct Free {
        void operator()(HyphenDict* read) const { hnj_hyphen_free(read); }
    };
    std::unique_ptr<HyphenDict, Free> read;
};

Hyphenator::Hyphenator(std::string folder)
    : folder_(std::move(folder)) {}
Hyphenator::~Hyphenator() = default;

bool Hyphenator::has(const std::string& language) const {
    return isName(language) && !fileFor(folder_, language).empty();
}

const Hyphenator::Patterns* Hyphenator::patterns(const std::string& language) const {
    if (!isName(language)) return nullptr;
    const std::unique_lock lock(mutex_);
    const auto [known, isNew] = known_.try_emplace(language);
    if (isNew)
        if (const std::string file = fileFor(folder_, language); !file.empty())
            if (HyphenDict* const read = hnj_hyphen_load(file.c_str()))
                known->second.reset(new Patterns{std::unique_ptr<HyphenDict, Patterns::Free>(read)});
    return known->second.get();
}

std::vector<size_t> Hyphenator::divisions(std::u16string_view word, const std::string& language) const {
    constexpr size_t kShortest = 5, kLongest = 100;
    if (word.size() < kShortest || word.size() > kLongest) return {};
    const Patterns* const known = patterns(language);
    if (!known) return {};
    HyphenDict* const dictionary = known->read.get();
    std::vector<size_t> unit;
    const std::string letters = encoded(word, *dictionary, unit);
    if (letters.empty()) return {};
    std::vector<char> marks(letters.size() + 5);
    char** rep = nullptr;
    int *pos = nullptr, *cut = nullptr;
    const int failed = hnj_hyphen_hyphenate2(dictionary, letters.c_str(), int(letters.size()), marks.data(),
                                             nullptr, &rep, &pos, &cut);
    std::vector<size_t> out;
    for (size_t i = 0; !failed && i + 1 < unit.size(); ++i) {
        const bool isSpeltOtherwise = rep && rep[i];
        const bool leavesTwo = i >= 1 && i + 2 < unit.size();
        if ((marks[i] & 1) != 0 && !isSpeltOtherwise && leavesTwo) out.push_back(unit[i + 1]);
    }
    // NOLINTBEGIN(cppcoreguidelines-no-malloc): what the library hands over
    for (size_t i = 0; rep && i < letters.size(); ++i) std::free(rep[i]);
    std::free(rep), std::free(pos), std::free(cut);
    // NOLINTEND(cppcoreguidelines-no-malloc)
    return out;
}

} // namespace glyptos
