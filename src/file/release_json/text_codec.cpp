#include "file/release_json/text_codec.h"

#include "base/overloaded.h"
#include "file/release_json/listing_codec.h"
#include "file/release_json/paint_codec.h"
#include "file/release_json/shape_codec.h"
#include "release/limits.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr const char* kAlignNames[] = {"left", "centre", "right", "justified"};
constexpr const char* kKerningNames[] = {"font", "optical", "none"};
constexpr const char* kCaseNames[] = {"as written", "capitals", "small"};
constexpr const char* kTabNames[] = {"left", "centre", "right", "figures"};
constexpr const char* kRuleNames[] = {"wave", "arc", "falling", "chance"};
constexpr const char* kFrameNames[] = {"point", "area", "shape", "path", "circle", "table"};
constexpr size_t kMostMarks = 100000;
constexpr int kMostStrips = 20;
constexpr double kMostTurn = 36000; // degrees

} // namespace

Json lettersJson(const LetterStyle& l) {
    Json out{{"family", l.family}, {"style", l.style}, {"size", l.size}, {"tracking", l.tracking}};
    const LetterStyle plain;
    if (l.shift != plain.shift) out["shift"] = l.shift;
    if (l.kerning != plain.kerning) out["kerning"] = kKerningNames[size_t(l.kerning)];
    if (l.letterCase != plain.letterCase) out["case"] = kCaseNames[size_t(l.letterCase)];
    if (!l.language.empty()) out["language"] = l.language;
    if (l.paint != 0) out["paint"] = l.paint;
    if (!l.features.empty()) {
        Json& list = out["features"] = Json::list();
        for (const FontFeature& f : l.features) list.push_back({{"tag", f.tag}, {"value", double(f.value)}});
    }
    if (!l.axes.empty()) {
        Json& list = out["axes"] = Json::list();
        for (const AxisValue& a : l.axes) list.push_back({{"tag", a.tag}, {"value", a.value}});
    }
    return out;
}

namespace {

std::string readTag(const Entry& e) {
    std::string tag = e.text("tag");
    const bool isTag =
        tag.size() == 4 && std::all_of(tag.begin(), tag.end(), [](char c) { return c >= ' ' && c <= '~'; });
    if (!isTag) e.at("tag").wrong("is not a tag of four characters");
    return tag;
}

} // namespace

LetterStyle readLetters(const Entry& e) {
    LetterStyle out;
    out.family = e.text("family");
    out.style = e.text("style");
    out.size = e.between("size", kSmallestScale, kLargestSide);
    out.tracking = e.between("tracking", -kLargestSide, kLargestSide);
    if (e.has("shift")) out.shift = e.between("shift", -kLargestSide, kLargestSide);
    if (e.has("kerning")) out.kerning = e.oneOf<Kerning>("kerning", kKerningNames);
    if (e.has("case")) out.letterCase = e.oneOf<LetterCase>("case", kCaseNames);
    out.language = e.textOr("language", {});
    if (e.has("paint")) out.paint = e.whole("paint", 0, int(kMostMarks));
    if (e.has("features"))
        e.each("features", [&](const Entry& f) {
            out.features.push_back({readTag(f), unsigned(f.whole("value", 0, 65535))});
        });
    if (e.has("axes"))
        e.each("axes", [&](const Entry& a) {
            out.axes.push_back({readTag(a), a.between("value", -kLargestSide, kLargestSide)});
        });
    // Before version 8.
    if (e.flagOr("capitals", false)) out.letterCase = LetterCase::Capitals;
    return out;
}

namespace {

Json frameJson(const TextFrame& frame) {
    Json out{{"kind", kFrameNames[frame.index()]}};
    std::visit(
        Overloaded{[](const AtPoint&) {},
                   [&](const InArea& a) {
                       out.update({{"width", a.width}, {"height", a.height}});
                   },
                   [&](const InShape& s) { out["contours"] = contoursJson(s.outline); },
                   [&](const AlongPath& p) {
                       out["contours"] = contoursJson({p.line});
                       out.update({{"start", p.start}, {"below", p.below}});
                   },
                   [&](const RoundCircle& c) {
                       out.update({{"radius", c.radius}, {"start", c.start}, {"inside", c.inside}});
                   },
                   [&](const InTable& t) {
                       Json& columns = out["columns"] = Json::list();
                       for (const TableColumn& c : t.columns)
                           columns.push_back({{"align", kAlignNames[size_t(c.align)]}, {"breaks", c.breaks}});
                       out.update({{"width", t.width},
                                   {"height", t.height},
                                   {"gap", t.gap},
                                   {"strips", t.strips},
                                   {"gutter", t.gutter},
                                   {"grid", t.grid},
                                   {"leader", t.leader},
                                   {"hangs", t.hangs}});
                   }},
        frame);
    return out;
}

TextFrame readFrame(const Entry& e) {
    switch (e.oneOf("kind", kFrameNames)) {
    case 1:
        return InArea{e.between("width", 0, kFarthestPlace), e.between("height", 0, kFarthestPlace)};
    case 2:
        return InShape{readContours(e.at("contours"))};
    case 3: {
        auto contours = readContours(e.at("contours"));
        if (contours.size() != 1) e.at("contours").wrong("is not one path");
        return AlongPath{std::move(contours.front()), e.between("start", -kFarthestPlace, kFarthestPlace),
                         e.flag("below")};
    }
    case 4:
        return RoundCircle{e.between("radius", 0, kFarthestPlace), e.between("start", -kMostTurn, kMostTurn),
                           e.flag("inside")};
    case 5: {
        InTable out;
        for (const auto& [key, length] :
             {std::pair("width", &out.width), std::pair("height", &out.height), std::pair("gap", &out.gap),
              std::pair("gutter", &out.gutter), std::pair("grid", &out.grid)})
            *length = e.between(key, 0, kFarthestPlace);
        e.each("columns", [&](const Entry& c) {
            out.columns.push_back({c.oneOf<Align>("align", kAlignNames), c.flag("breaks")});
        });
        out.strips = e.whole("strips", 1, kMostStrips);
        out.leader = e.text("leader"), out.hangs = e.flag("hangs");
        return out;
    }
    default:
        return AtPoint{};
    }
}

/// Before version 8 a text had at most a width, and broke at spaces.
void readOldMeasure(const Entry& e, TextSpec& out) {
    const double measure = e.between("measure", -kFarthestPlace, kFarthestPlace);
    if (measure > 0) out.frame = InArea{measure, 0};
    out.breakAtSpaces = true;
}

Json poseJson(const LetterPose& p) {
    return {{"at", double(p.at)}, {"x", p.offEm.x},   {"y", p.offEm.y},
            {"turn", p.turn},     {"scale", p.scale}, {"opacity", p.opacity}};
}

Json ruleJson(const LetterRule& r) {
    return {{"kind", kRuleNames[size_t(r.kind)]},
            {"rise", r.rise},
            {"turn", r.turn},
            {"spread", r.spread},
            {"fade", r.fade},
            {"period", r.period},
            {"seed", double(r.seed)}};
}

LetterRule readRule(const Entry& e) {
    LetterRule out;
    out.kind = e.oneOf<LetterRule::Kind>("kind", kRuleNames);
    out.rise = e.between("rise", -kLargestSide, kLargestSide);
    out.turn = e.between("turn", -kMostTurn, kMostTurn);
    out.spread = e.between("spread", 0, 1), out.fade = e.between("fade", 0, 1);
    out.period = e.between("period", 0, kLargestSide);
    out.seed = unsigned(e.whole("seed", 0, std::numeric_limits<int>::max()));
    return out;
}

/// A list that is only there when it holds something.
template <class T, class Make>
void putList(Json& out, const char* key, const std::vector<T>& items, Make make) {
    if (items.empty()) return;
    Json list = Json::list();
    for (const T& item : items) list.push_back(make(item));
    out[key] = std::move(list);
}

/// Where characters begin, to which positions in the text are held.
class Positions {
  public:
    explicit Positions(const std::string& text)
        : text_(text) {}
    size_t at(const Entry& e, const char* key) const {
        const auto byte = size_t(e.whole(key, 0, int(std::min<size_t>(text_.size(), 1U << 30))));
        if (byte < text_.size() && (static_cast<unsigned char>(text_[byte]) & 0xc0) == 0x80)
            e.at(key).wrong("is inside a character");
        return byte;
    }

    /// Behind the one that was read before it.
    size_t next(const Entry& e, const char* key) {
        const size_t byte = at(e, key);
        if (last_ && byte <= *last_) e.at(key).wrong("does not follow the one before it");
        last_ = byte;
        return byte;
    }

  private:
    const std::string& text_;
    std::optional<size_t> last_;
};

void readRuns(const Entry& e, TextSpec& spec) {
    const Positions positions(spec.text);
    size_t end = 0;
    e.each("runs", [&](const Entry& r) {
        TextRun run{positions.at(r, "from"), positions.at(r, "to"), readLetters(r)};
        if (run.from < end || run.to <= run.from) r.wrong("does not follow the run before it");
        end = run.to;
        spec.runs.push_back(std::move(run));
    });
}

void readMarks(const Entry& e, TextSpec& spec) {
    Positions leadings(spec.text), kerns(spec.text), poses(spec.text);
    if (e.has("leadings"))
        e.each("leadings", [&](const Entry& l) {
            spec.leadings.push_back({leadings.next(l, "at"), l.between("em", -kLargestSide, kLargestSide)});
        });
    if (e.has("kerns"))
        e.each("kerns", [&](const Entry& k) {
            spec.kerns.push_back({kerns.next(k, "at"), k.between("em", -kLargestSide, kLargestSide)});
        });
    if (e.has("poses"))
        e.each("poses", [&](const Entry& p) {
            spec.poses.push_back(
                {poses.next(p, "at"),
                 {p.between("x", -kLargestSide, kLargestSide), p.between("y", -kLargestSide, kLargestSide)},
                 p.between("turn", -kMostTurn, kMostTurn),
                 p.between("scale", kSmallestScale, kLargestSide),
                 p.between("opacity", 0, 1)});
        });
    if (e.has("rules")) e.each("rules", [&](const Entry& r) { spec.rules.push_back(readRule(r)); });
    if (e.has("tabs"))
        e.each("tabs", [&](const Entry& t) {
            spec.tabs.push_back({t.between("at", -kFarthestPlace, kFarthestPlace),
                                 t.oneOf<TabAlign>("align", kTabNames), t.text("leader")});
        });
}

} // namespace

void writeText(Json& out, const TextContent& t) {
    const TextSpec& s = t.spec;
    out.update({{"kind", "text"},
                {"text", s.text},
                {"leading", s.leading},
                {"align", kAlignNames[size_t(s.align)]}});
    out.update(lettersJson(s.letters));
    out["frame"] = frameJson(s.frame);
    if (!t.style.empty()) out["textStyle"] = t.style;
    if (t.tracks) out["tracks"] = toJson(*t.tracks);
    for (const auto& [key, on] :
         {std::pair("hyphenate", s.hyphenate), std::pair("hang", s.hangPunctuation),
          std::pair("balance", s.balance), std::pair("breakAtSpaces", s.breakAtSpaces)})
        if (on) out[key] = true;
    putList(out, "runs", s.runs, [](const TextRun& r) {
        Json run = lettersJson(r.letters);
        run.update({{"from", double(r.from)}, {"to", double(r.to)}});
        return run;
    });
    putList(out, "tabs", s.tabs, [](const TabStop& t) {
        return Json{{"at", t.at}, {"align", kTabNames[size_t(t.align)]}, {"leader", t.leader}};
    });
    putList(out, "leadings", s.leadings, [](const OwnLeading& l) {
        return Json{{"at", double(l.at)}, {"em", l.em}};
    });
    putList(out, "kerns", s.kerns, [](const HandKern& k) {
        return Json{{"at", double(k.at)}, {"em", k.em}};
    });
    putList(out, "poses", s.poses, poseJson);
    putList(out, "rules", s.rules, ruleJson);
    out = withInk(std::move(out), "colour", t.colour);
    putList(out, "colours", t.colours, [](const Ink& ink) { return withInk(Json{}, "colour", ink); });
}

TextContent readText(const Entry& e) {
    TextContent out;
    TextSpec& s = out.spec;
    s.text = e.text("text");
    s.letters = readLetters(e);
    s.leading = e.between("leading", -kLargestSide, kLargestSide);
    s.align = e.oneOf<Align>("align", kAlignNames);
    s.hyphenate = e.flagOr("hyphenate", false), s.hangPunctuation = e.flagOr("hang", false);
    s.balance = e.flagOr("balance", false), s.breakAtSpaces = e.flagOr("breakAtSpaces", false);
    if (e.has("frame"))
        s.frame = readFrame(e.at("frame"));
    else
        readOldMeasure(e, s);
    if (e.has("runs")) readRuns(e, s);
    readMarks(e, s);
    out.style = e.textOr("textStyle", {});
    if (e.has("tracks")) out.tracks = readTrackListing(e.at("tracks"));
    out.colour = readInk(e, "colour");
    if (e.has("colours"))
        e.each("colours", [&](const Entry& ink) { out.colours.push_back(readInk(ink, "colour")); });
    return out;
}

Json toJson(const TextStyle& style) {
    Json out = lettersJson(style.look.letters);
    out.update({{"id", style.id},
                {"name", style.name},
                {"base", style.base},
                {"leading", style.look.leading},
                {"align", kAlignNames[size_t(style.look.align)]},
                {"hyphenate", style.look.hyphenate}});
    if (!style.spot.empty()) out["spot"] = style.spot;
    return withInk(std::move(out), "colour", style.look.colour);
}

TextStyle readTextStyle(const Entry& e) {
    TextStyle out{e.text("id"), e.text("name"), e.text("base"), {}};
    out.look.letters = readLetters(e);
    out.look.leading = e.between("leading", -kLargestSide, kLargestSide);
    out.look.align = e.oneOf<Align>("align", kAlignNames);
    out.look.hyphenate = e.flag("hyphenate");
    out.look.colour = readInk(e, "colour");
    out.spot = e.textOr("spot", {});
    return out;
}

} // namespace glyptos
