#include "file/font_files.h"

#include "base/text.h"
#include "file/pictures/picture_reader.h"

#include <algorithm>
#include <array>
#include <fstream>

namespace glyptos {

bool isFontFile(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    std::array<char, 4> head{};
    return in.read(head.data(), head.size()) &&
           !fontFormatOf({reinterpret_cast<const uint8_t*>(head.data()), head.size()}).empty();
}

Result<ImportedFont> importFont(const std::filesystem::path& file) {
    const std::string name = nameOf(file);
    const auto wrong = [&](Fault fault, const std::string& why) {
        return fail(fault, "“" + name + "” was not brought in: " + why + ". Nothing has changed.");
    };
    std::error_code code;
    if (const auto size = std::filesystem::file_size(file, code); !code && size > kMostFontBytes)
        return wrong(Fault::TooLarge, "it is over 256 MiB, which is too large for a font");
    auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto source = std::make_shared<Source>();
    source->id = contentId(*bytes);
    source->name = name;
    source->format = fontFormatOf(*bytes);
    const auto held = std::make_shared<const std::vector<uint8_t>>(std::move(*bytes));
    auto font = readFont(held, source->id, stemOf(name));
    if (!font) return wrong(font.error().fault, font.error().message);
    source->bytes = pictureBytes(std::vector(*held));
    return ImportedFont{std::move(source), std::move(*font)};
}

ReleaseFonts fontsOf(const Release& release, const std::vector<BroughtFontPtr>& known) {
    ReleaseFonts out;
    for (const SourcePtr& source : release.fonts) {
        const auto kept = std::find_if(known.begin(), known.end(),
                                       [&](const BroughtFontPtr& font) { return font->id == source->id; });
        if (kept != known.end()) {
            out.fonts.push_back(*kept);
            continue;
        }
        const auto bytes = source->bytes->read();
        auto font = bytes ? readFont(*bytes, source->id, stemOf(source->name))
                          : Result<BroughtFontPtr>(tl::unexpected(bytes.error()));
        if (font)
            out.fonts.push_back(std::move(*font));
        else
            out.trouble = "The font “" + source->name + "” cannot be used: " + font.error().message +
                          ". It stays in the release, and another face stands in for it.";
    }
    return out;
}

} // namespace glyptos
