#include "cli/saying.h"
#include "commands.h"
#include "picture_io.h"

#include "base/inside.h"
#include "base/text.h"
#include "file/data_folder.h"
#include "file/looks.h"
#include "file/release_json/treatment_codec.h"
#include "render/treated_picture.h"
#include "type/font_library.h"

#include <iostream>

namespace glyptos::cli {
namespace {

constexpr const char* kFamilyNames[]{"grade", "blur",    "detail", "drawn",
                                     "worn",  "outline", "light",  "surface"};
constexpr const char* kKindNames[]{"number", "flag", "choice", "colour",  "point",
                                   "curve",  "run",  "path",   "picture", "file"};
constexpr const char* kUnitNames[]{
    "",      "share",        "degrees",     "degrees of hue", "length", "lines per inch",
    "stops", "whole number", "whole number"};
static_assert(std::size(kUnitNames) == size_t(FigureUnit::Chance) + 1);
static_assert(std::size(kKindNames) == size_t(FigureKind::Table) + 1);

/// Files that a chain names lie beside it.
Result<Treatments> readChain(const std::string& file) {
    const auto folder = std::filesystem::path(file).parent_path();
    TreatmentReading reading{Unit::Px, noTiles, [&](const std::string& name) -> Result<LookTablePtr> {
                                 const auto there = inside(folder, name);
                                 if (!there) return tl::unexpected(there.error());
                                 return readCubeFile(*there);
                             }};
    auto chain = readJsonFile(file, "chain", [&](const Entry& all) { return readTreatments(all, reading); });
    if (!chain) return chain;
    for (const Treatment& t : *chain)
        if (!t.kind)
            return unusable("chain", file,
                            {Fault::Unsupported, "it holds a treatment of an unknown kind: " + t.unknown});
    return chain;
}

Json figureJson(const Figure& figure) {
    Json out{{"id", figure.id}, {"label", figure.label}, {"kind", kKindNames[size_t(figure.kind)]}};
    if (figure.kind == FigureKind::Number) {
        out["unit"] = kUnitNames[size_t(figure.unit)];
        out["least"] = figure.least, out["most"] = figure.most, out["standard"] = figure.standard;
    } else if (figure.kind == FigureKind::Flag) {
        out["standard"] = figure.standard != 0;
    } else if (figure.kind == FigureKind::Choice) {
        Json choices = Json::list();
        for (const char* word : figure.choices) choices.push_back(word);
        out["choices"] = std::move(choices);
        out["standard"] = figure.choices[size_t(figure.standard)];
    } else if (figure.kind == FigureKind::Colour) {
        out["standard"] = toHex(figure.colour);
    }
    return out;
}

Json kindJson(const TreatmentKind& kind) {
    Json figures = Json::list();
    for (const Figure& figure : kind.figures) figures.push_back(figureJson(figure));
    return {{"kind", kind.id},
            {"title", kind.title},
            {"family", kFamilyNames[size_t(kind.family)]},
            {"looksAround", kind.looksAround()},
            {"followsOutline", kind.followsOutline},
            {"figures", std::move(figures)}};
}

std::string figureLine(const Figure& figure) {
    std::string out = "  " + std::string(figure.id);
    if (figure.unit == FigureUnit::Length) out += "_mm, " + std::string(figure.id) + "_px";
    out += ": ";
    if (figure.kind == FigureKind::Number) {
        const std::string unit = kUnitNames[size_t(figure.unit)];
        out += shortNumber(figure.least) + " to " + shortNumber(figure.most) +
               (unit.empty() || unit == "length" ? "" : " (" + unit + ")") + ", standard " +
               shortNumber(figure.standard) + (unit == "length" ? " mm" : "");
    } else if (figure.kind == FigureKind::Choice) {
        for (const char* word : figure.choices)
            out += (word == figure.choices[0] ? "" : ", ") + ("“" + std::string(word) + "”");
    } else {
        out += kKindNames[size_t(figure.kind)];
        if (figure.kind == FigureKind::Colour) out += ", standard " + toHex(figure.colour);
    }
    return out;
}

/// The pictures that a chain names, which lie beside it.
Result<NamedPictures> picturesOf(const Treatments& chain, const std::string& file) {
    const auto folder = std::filesystem::path(file).parent_path();
    NamedPictures out;
    for (const Treatment& t : chain)
        for (const FigureValue& value : t.figures.values()) {
            const auto* name = std::get_if<std::string>(&value);
            if (!name || name->empty() || out.contains(*name)) continue;
            if (name->starts_with(kLayerMark))
                return unusable("chain", file,
                                {Fault::Unsupported, "a picture by itself has no layers to read"});
            const auto there = inside(folder, *name);
            if (!there) return unusable("chain", file, there.error());
            auto picture = readPicture(there->string());
            if (!picture) return tl::unexpected(picture.error());
            out.emplace(*name, std::make_shared<const Pyramid>(std::move(*picture)));
        }
    return out;
}

} // namespace

Result<Outcome> treat(const TreatOptions& options) {
    const auto chain = readChain(options.chain);
    if (!chain) return tl::unexpected(chain.error());
    const auto pictures = picturesOf(*chain, options.chain);
    if (!pictures) return tl::unexpected(pictures.error());
    auto read = readPicture(options.picture);
    if (!read) return tl::unexpected(read.error());
    const auto picture = std::make_shared<const Pyramid>(std::move(*read));
    const FontLibrary fonts(dataFolder() / "fonts", true); // a picture has no words
    if (auto written = writePng(options.out, treated(picture, *chain, fonts, *pictures)); !written)
        return tl::unexpected(written.error());
    return Outcome::Fine;
}

Result<Outcome> listTreatments(bool json) {
    if (json) {
        Json out = Json::list();
        for (const TreatmentKind* kind : treatmentKinds()) out.push_back(kindJson(*kind));
        print(out, 1);
        return Outcome::Fine;
    }
    for (const TreatmentKind* kind : treatmentKinds()) {
        std::cout << kind->id << " (" << kFamilyNames[size_t(kind->family)] << "): " << kind->title << '\n';
        for (const Figure& figure : kind->figures) std::cout << figureLine(figure) << '\n';
    }
    return Outcome::Fine;
}

} // namespace glyptos::cli
