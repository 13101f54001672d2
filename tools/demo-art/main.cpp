// demo-art --compose COMPOSITION.json --out FILE.glyptos [--pictures FOLDER]
// demo-art --drawer FOLDER
//
// Makes the pictures of the demo and puts them into the composition: a release file (docs/file-format.md)
// without sources, in which a layer names its picture as "@moon.png". What is made by hand (letterwork.h,
// handwork.h, paintwork.h, treatwork.h, piecework.h) is added.
#include "canvas.h"
#include "drawer.h"
#include "handwork.h"
#include "letterwork.h"
#include "paintwork.h"
#include "piecework.h"
#include "treatwork.h"

#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "file/project.h"
#include "file/release_json/release_json.h"

#include <CLI/CLI.hpp>
#include <fstream>
#include <iostream>
#include <iterator>
#include <map>

namespace {

using namespace glyptos;

std::string replaced(std::string text, const std::string& what, const std::string& by) {
    for (size_t at = 0; (at = text.find(what, at)) != text.npos; at += by.size())
        text.replace(at, what.size(), by);
    return text;
}

/// Whose the pictures of the demo are said to be. One maker is not known, as happens.
SourceFacts factsOf(const std::string& name) {
    const auto facts = [](SourceKind kind, const char* title, const char* maker, const char* licence) {
        SourceFacts out;
        out.kind = kind, out.title = title, out.maker = maker, out.licence = licence;
        return out;
    };
    const std::map<std::string, SourceFacts> all{
        {"sea-and-sky.jpg",
         facts(SourceKind::Photo, "Slack water, evening", "Ása Grenfell", "Harbour Credit")},
        {"lighthouse.png", facts(SourceKind::Photo, "The light, cut out", "Ása Grenfell", "Harbour Credit")},
        {"moon.png", facts(SourceKind::Element, "Moon", "Orri Vane", "Harbour Open")},
        {"beam.png", facts(SourceKind::Element, "Beam", "Orri Vane", "Harbour Open")},
        {"gulls.svg", facts(SourceKind::Illustration, "Seven gulls", "Maud Skerry", "Harbour Press")},
        {"rust.jpg", facts(SourceKind::Texture, "Hull, rust", "Bram Ollis", "Harbour Credit")},
        {"paper.jpg", facts(SourceKind::Texture, "Log-book page", "", "")},
        {"harbour-wall.jpg", facts(SourceKind::Texture, "Harbour wall", "Bram Ollis", "Harbour Credit")},
        {"rope.png", facts(SourceKind::Scan, "Rope", "Teodor Finch", "Harbour Open")},
        {"chart.jpg", facts(SourceKind::Scan, "Chart of the sound", "Ines Quayle", "Harbour Press")},
        {"keeper.jpg", facts(SourceKind::Photo, "The keeper", "Ines Quayle", "Harbour Credit")}};
    const auto found = all.find(name);
    return found == all.end() ? SourceFacts{} : found->second;
}

Result<void> compose(const std::string& composition, const std::string& out, const std::string& folder) {
    using namespace glyptos::demo;
    std::vector<SourcePtr> sources;
    for (const auto make :
         {seaAndSky, lighthouse, moon, beam, gulls, rust, paper, harbourWall, rope, chart, keeper}) {
        DemoPicture picture = make();
        if (!folder.empty())
            if (auto written = writeFile(folder + "/" + picture.name, picture.bytes); !written)
                return written;
        auto imported = importBytes(std::move(picture.bytes), picture.name);
        if (!imported) return tl::unexpected(imported.error());
        auto source = std::make_shared<Source>(*imported->source);
        source->facts = factsOf(source->name);
        sources.push_back(std::move(source));
    }
    std::ifstream in(composition, std::ios::binary);
    std::string text(std::istreambuf_iterator<char>(in), {});
    if (text.empty()) return fail(Fault::Unreadable, composition + " cannot be read");
    Release listed;
    for (const SourcePtr& s : sources) {
        text = replaced(text, "\"@" + s->name + "\"", "\"" + s->id + "\"");
        listed.sources.push_back(s);
    }
    const std::string all = releaseToJson(listed), key = "\"sources\": ";
    const size_t from = all.find(key) + key.size(), to = all.find(",\n \"pieces\"", from);
    text = replaced(text, "\"sources\": []", key + all.substr(from, to - from));
    auto forms = shippedForms();
    if (!forms) return tl::unexpected(forms.error());
    auto release = releaseFromJson(text, *forms);
    if (!release) return fail(release.error().fault, composition + ": " + release.error().message);
    release->sources = sources;
    const auto lettered = withLetterwork(std::make_shared<const Release>(std::move(*release)));
    if (!lettered) return tl::unexpected(lettered.error());
    const auto worked = withHandwork(*lettered);
    if (!worked) return tl::unexpected(worked.error());
    const auto painted = withPaintwork(*worked);
    if (!painted) return tl::unexpected(painted.error());
    const auto treated = withTreatwork(*painted);
    if (!treated) return tl::unexpected(treated.error());
    const auto behind = withTitleBehind(*treated);
    if (!behind) return tl::unexpected(behind.error());
    const auto family = withPiecework(*behind);
    if (!family) return tl::unexpected(family.error());
    return saveProject(**family, out);
}

} // namespace

int main(int argc, char** argv) {
    CLI::App app("Makes the demo release.", "demo-art");
    std::string composition, out, folder, drawer;
    auto* compose = app.add_option("--compose", composition, "The composition");
    app.add_option("--out", out, "The release to write")->needs(compose);
    compose->needs("--out");
    app.add_option("--drawer", drawer, "Make the stock drawer in a folder, which is emptied first")
        ->excludes(compose);
    app.require_option(1, 0);
    app.add_option("--pictures", folder, "Write the pictures there too");
    CLI11_PARSE(app, argc, argv);
    if (auto done = drawer.empty() ? ::compose(composition, out, folder) : demo::makeDrawer(drawer); !done) {
        std::cerr << "demo-art: " << done.error().message << '\n';
        return 2;
    }
    return 0;
}
