#include "type/spelling.h"

#include "type/text_edits.h"

#include <algorithm>
#include <filesystem>
#include <hunspell/hunspell.hxx>
#include <unicode/brkiter.h>
#include <unicode/uchar.h>
#include <unicode/ucnv.h>

namespace glyptos {
namespace {

bool isLanguage(const std::string& name) {
    return !name.empty() && std::all_of(name.begin(), name.end(), [](char c) {
        return c == '-' || (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    });
}

/// The affixes of that very language and country, or else the first of the language; without ".aff".
std::string fileFor(const std::string& folder, std::string language) {
    std::replace(language.begin(), language.end(), '-', '_');
    const auto isPair = [](const std::string& stem) {
        std::error_code code;
        return std::filesystem::exists(stem + ".aff", code) && std::filesystem::exists(stem + ".dic", code);
    };
    const std::filesystem::path place(folder);
    if (const std::string exact = (place / language).string(); isPair(exact)) return exact;
    const std::string begin = language.substr(0, language.find('_'));
    std::vector<std::string> found;
    std::error_code code;
    for (const auto& entry : std::filesystem::directory_iterator(folder, code)) {
        const std::string stem = entry.path().stem().string();
        const bool isOfIt = stem == begin || stem.starts_with(begin + '_');
        const std::string pair = (place / stem).string();
        if (isOfIt && entry.path().extension() == ".aff" && isPair(pair)) found.push_back(pair);
    }
    return found.empty() ? std::string() : *std::min_element(found.begin(), found.end());
}

bool hasFigures(const icu::UnicodeString& word) {
    for (int32_t i = 0; i < word.length(); i = word.moveIndex32(i, 1))
        if (u_isdigit(word.char32At(i))) return true;
    return false;
}

/// Calls visit(from, to, word) for each word; bytes of the text.
template <class Visit>
void eachWord(const std::string& utf8, const Visit& visit) {
    UErrorCode status = U_ZERO_ERROR;
    const std::unique_ptr<icu::BreakIterator> words(
        icu::BreakIterator::createWordInstance(icu::Locale::getRoot(), status));
    if (U_FAILURE(status)) return;
    const icu::UnicodeString text = icu::UnicodeString::fromUTF8(utf8);
    std::vector<size_t> bytes; // of each unit, and of the end
    size_t byte = 0;
    for (int32_t i = 0; i < text.length(); ++i) {
        bytes.push_back(byte);
        const UChar32 c = text.char32At(i);
        if (i + 1 < text.length() && text.moveIndex32(i, 1) == i + 2) bytes.push_back(byte), ++i;
        byte += size_t(U8_LENGTH(c));
    }
    bytes.push_back(byte);
    if (byte != utf8.size()) return; // it is not well-formed
    words->setText(text);
    for (int32_t from = words->first(), to = words->next(); to != icu::BreakIterator::DONE;
         from = to, to = words->next())
        if (words->getRuleStatus() >= UBRK_WORD_LETTER)
            visit(bytes[size_t(from)], bytes[size_t(to)], text.tempSubStringBetween(from, to));
}

/// Whether a byte is between braces on its line.
bool isInBraces(const std::string& text, size_t byte) {
    const size_t open = text.rfind('{', byte);
    return open != text.npos && text.find('}', open) > byte && text.find('\n', open) > byte;
}

struct CloseConverter {
    void operator()(UConverter* c) const { ucnv_close(c); }
};

} // namespace

struct Spelling::Dictionary {
    Hunspell words;
    std::unique_ptr<UConverter, CloseConverter> letters;

    explicit Dictionary(const std::string& stem)
        : words((stem + ".aff").c_str(), (stem + ".dic").c_str()) {
        UErrorCode status = U_ZERO_ERROR;
        letters.reset(ucnv_open(words.get_dict_encoding().c_str(), &status));
        if (letters)
            ucnv_setFromUCallBack(letters.get(), UCNV_FROM_U_CALLBACK_STOP, nullptr, nullptr, nullptr,
                                  &status);
    }
    /// In the letters of the dictionary; nothing when one is not among them.
    std::string encoded(const icu::UnicodeString& word) {
        UErrorCode status = U_ZERO_ERROR;
        std::string out(size_t(word.length()) * 4 + 4, 0);
        const int32_t n = ucnv_fromUChars(letters.get(), out.data(), int32_t(out.size()), word.getBuffer(),
                                          word.length(), &status);
        out.resize(U_SUCCESS(status) ? size_t(n) : 0);
        return out;
    }
    std::string decoded(const std::string& word) {
        UErrorCode status = U_ZERO_ERROR;
        std::string out;
        icu::UnicodeString(word.data(), int32_t(word.size()), letters.get(), status).toUTF8String(out);
        return out;
    }
};

Spelling::Spelling(std::string folder)
    : folder_(std::move(folder)) {}
Spelling::~Spelling() = default;

Spelling::Dictionary* Spelling::dictionary(const std::string& language) const {
    if (!isLanguage(language)) return nullptr;
    const std::lock_guard lock(mutex_);
    const auto [known, isNew] = known_.try_emplace(language);
    if (isNew)
        if (const std::string stem = fileFor(folder_, language); !stem.empty()) {
            auto made = std::make_unique<Dictionary>(stem);
            if (made->letters) known->second = std::move(made);
        }
    return known->second.get();
}

std::vector<Misspelt> Spelling::misspelt(const TextSpec& spec) const {
    std::vector<Misspelt> out;
    eachWord(spec.text, [&](size_t from, size_t to, const icu::UnicodeString& word) {
        Dictionary* const known = dictionary(lettersAt(spec, from).language);
        if (!known || hasFigures(word) || isInBraces(spec.text, from)) return;
        icu::UnicodeString plain = word;
        plain.findAndReplace(icu::UnicodeString(char16_t(0x2019)), icu::UnicodeString(u'\''));
        const std::lock_guard lock(mutex_);
        const std::string encoded = known->encoded(plain);
        if (!encoded.empty() && !known->words.spell(encoded)) out.push_back({from, to});
    });
    return out;
}

std::vector<std::string> Spelling::suggestions(const std::string& word, const std::string& language,
                                               size_t most) const {
    std::vector<std::string> out;
    Dictionary* const known = dictionary(language);
    if (!known) return out;
    const std::lock_guard lock(mutex_);
    const std::string encoded = known->encoded(icu::UnicodeString::fromUTF8(word));
    if (encoded.empty()) return out;
    for (const std::string& meant : known->words.suggest(encoded))
        if (out.size() < most) out.push_back(known->decoded(meant));
    return out;
}

} // namespace glyptos
