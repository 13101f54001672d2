#include "file/release_json/kept_words_codec.h"

#include "file/release_json/text_codec.h"

#include <cmath>
#include <string_view>

namespace glyptos {
namespace {

constexpr std::string_view kVerbs = "MLQC"; // as Path::Verb has them
constexpr double kFarthest = 1e9;           // units of a panel
constexpr int kMostBytes = 1 << 28;         // of a text

double rounded(double value) {
    constexpr double kSteps = 1e6;
    return std::abs(value) < kFarthest ? std::round(value * kSteps) / kSteps : value;
}

Json numbersJson(std::initializer_list<double> numbers) {
    Json out = Json::list();
    for (const double number : numbers) out.push_back(rounded(number));
    return out;
}

template <size_t N>
std::array<double, N> farNumbers(const Entry& e, const char* key) {
    const auto out = e.numbers<N>(key);
    for (const double number : out)
        if (std::abs(number) > kFarthest) e.at(key).wrong("is too large");
    return out;
}

Json toJson(const Path& path) {
    std::string verbs;
    for (const Path::Verb verb : path.verbs()) verbs += kVerbs[size_t(verb)];
    Json points = Json::list();
    for (const Vec2& p : path.points()) points.push_back(rounded(p.x)), points.push_back(rounded(p.y));
    return {{"verbs", std::move(verbs)}, {"points", std::move(points)}};
}

Path readPath(const Entry& e) {
    std::vector<double> numbers;
    e.each("points", [&](const Entry& one) {
        numbers.push_back(one.number());
        if (std::abs(numbers.back()) > kFarthest) one.wrong("is too large");
    });
    Path out;
    size_t at = 0;
    const auto next = [&]() -> Vec2 {
        if (at + 2 > numbers.size()) e.wrong("has fewer points than its verbs need");
        at += 2;
        return {numbers[at - 2], numbers[at - 1]};
    };
    const std::string verbs = e.text("verbs");
    if (!verbs.empty() && verbs[0] != kVerbs[0]) e.wrong("does not begin with a move");
    for (const char verb : verbs) {
        const Vec2 a = next();
        if (verb == 'M')
            out.moveTo(a);
        else if (verb == 'L')
            out.lineTo(a);
        else if (verb == 'Q')
            out.quadTo(a, next());
        else if (verb == 'C') {
            const Vec2 b = next();
            out.cubicTo(a, b, next());
        } else
            e.wrong("has a verb that there is not");
    }
    if (at != numbers.size()) e.wrong("has more points than its verbs need");
    return out;
}

Json toJson(const Rect& r) {
    return numbersJson({r.x, r.y, r.w, r.h});
}

Rect readRect(const Entry& e, const char* key) {
    const auto [x, y, w, h] = farNumbers<4>(e, key);
    if (w < 0 || h < 0) e.at(key).wrong("is turned inside out");
    return {x, y, w, h};
}

Json toJson(const SetLetter& l) {
    Json out{{"at", numbersJson({l.map.a, l.map.b, l.map.c, l.map.d, l.map.e, l.map.f})},
             {"extent", numbersJson({l.advance, l.above, l.below})},
             {"from", l.from},
             {"to", l.to},
             {"line", l.line}};
    if (l.opacity != 1) out["opacity"] = l.opacity;
    if (l.isSpace) out["isSpace"] = true;
    if (l.rightToLeft) out["rightToLeft"] = true;
    return out;
}

SetLetter readLetter(const Entry& e, const Paragraph& set, const TextSpec& spec) {
    SetLetter out;
    const auto at = farNumbers<6>(e, "at");
    out.map = {at[0], at[1], at[2], at[3], at[4], at[5]};
    const auto extent = farNumbers<3>(e, "extent");
    out.advance = extent[0], out.above = extent[1], out.below = extent[2];
    out.to = size_t(e.whole("to", 0, int(spec.text.size())));
    out.from = size_t(e.whole("from", 0, int(out.to)));
    out.line = size_t(e.whole("line", 0, int(set.lines.size()) - 1));
    if (e.has("opacity")) out.opacity = e.between("opacity", 0, 1);
    out.isSpace = e.flagOr("isSpace", false), out.rightToLeft = e.flagOr("rightToLeft", false);
    return out;
}

Json toJson(const SetLine& l) {
    return {{"from", l.from},
            {"to", l.to},
            {"place", numbersJson({l.baseline, l.left, l.width})},
            {"divided", l.divided}};
}

SetLine readLine(const Entry& e, const TextSpec& spec) {
    SetLine out;
    out.to = size_t(e.whole("to", 0, int(spec.text.size())));
    out.from = size_t(e.whole("from", 0, int(out.to)));
    const auto [baseline, left, width] = farNumbers<3>(e, "place");
    out.baseline = baseline, out.left = left, out.width = width;
    out.divided = e.flag("divided");
    return out;
}

void readInks(const Entry& e, Paragraph& out) {
    e.each("inks", [&](const Entry& ink) {
        out.inks.push_back({ink.whole("paint", 0, kMostBytes), ink.between("opacity", 0, 1), readPath(ink)});
    });
    for (const InkedLetters& ink : out.inks) out.outline.append(ink.outline, {});
}

} // namespace

Json toJson(const KeptWords& words) {
    Json out = Json::object(), inks = Json::list(), lines = Json::list(), letters = Json::list(),
         faces = Json::list();
    TextContent text;
    text.spec = words.spec;
    writeText(out, text);
    const Paragraph& set = *words.set;
    const auto inkJson = [](int paint, double opacity, const Path& outline) {
        Json one = toJson(outline);
        one["paint"] = paint, one["opacity"] = opacity;
        return one;
    };
    for (const InkedLetters& ink : set.inks) inks.push_back(inkJson(ink.paint, ink.opacity, ink.outline));
    if (set.inks.empty()) out["outline"] = toJson(set.outline);
    for (const SetLine& line : set.lines) lines.push_back(toJson(line));
    for (const SetLetter& letter : set.letters) letters.push_back(toJson(letter));
    for (const auto& [family, style] : words.faces)
        faces.push_back(Json{{"family", family}, {"style", style}});
    out.update({{"faces", std::move(faces)},
                {"inks", std::move(inks)},
                {"box", toJson(set.box)},
                {"ink", toJson(set.ink)},
                {"ascent", rounded(set.ascent)},
                {"shown", set.shown},
                {"lines", std::move(lines)},
                {"letters", std::move(letters)}});
    return out;
}

KeptWords readKeptWords(const Entry& e) {
    KeptWords out{readText(e).spec, {}, nullptr};
    e.each("faces", [&](const Entry& f) { out.faces.emplace_back(f.text("family"), f.text("style")); });
    if (out.spec.text.size() > size_t(kMostBytes)) e.wrong("is too long", Fault::TooLarge);
    auto set = std::make_shared<Paragraph>();
    readInks(e, *set);
    if (set->inks.empty()) set->outline = readPath(e.at("outline"));
    set->box = readRect(e, "box"), set->ink = readRect(e, "ink");
    if (set->box.empty()) e.at("box").wrong("is empty");
    set->ascent = e.between("ascent", -kFarthest, kFarthest);
    set->shown = size_t(e.whole("shown", 0, int(out.spec.text.size())));
    e.each("lines", [&](const Entry& line) { set->lines.push_back(readLine(line, out.spec)); });
    if (set->lines.empty()) e.at("lines").wrong("is empty");
    for (const SetLine& line : set->lines) set->baselines.push_back(line.baseline);
    e.each("letters",
           [&](const Entry& letter) { set->letters.push_back(readLetter(letter, *set, out.spec)); });
    if (out.faces.size() != facesAskedFor(out.spec).size()) e.at("faces").wrong("are not those of the words");
    set->usedFamily = out.faces[0].first, set->usedStyle = out.faces[0].second;
    set->isKept = true;
    out.set = std::move(set);
    return out;
}

Json toJson(const KeptWordsList& all) {
    Json out = Json::list();
    if (all)
        for (const KeptWords& words : *all) out.push_back(toJson(words));
    return out;
}

KeptWordsList readAllKept(const Entry& list) {
    auto out = std::make_shared<std::vector<KeptWords>>();
    list.each([&](const Entry& words) { out->push_back(readKeptWords(words)); });
    return out->empty() ? nullptr : out;
}

} // namespace glyptos
