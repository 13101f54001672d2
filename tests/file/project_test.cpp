// The project file: saved, opened and saved again it is the same; whatever is wrong with it is said and
// nothing is lost.
#include "file/project.h"
#include "file/release_json/release_json.h"
#include "release/edits/palette_edits.h"
#include "release/wall.h"
#include "support/noting.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QDir>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <csignal>
#include <sys/resource.h>
#include <unistd.h>
#include <zip.h>

using namespace glyptos;
using namespace glyptos::test;

namespace {

std::array<uint8_t, 4> grey(int x, int y) {
    return {uint8_t(x * 3), uint8_t(y * 5), 90, 255};
}

Layer layerOf(const std::string& name, Content content) {
    Layer l;
    l.name = name;
    l.content = std::move(content);
    return l;
}

bool sameContent(const Layer& a, const Layer& b) {
    const auto same = [&]<class T>(const T*) { return a.as<T>() && b.as<T>() && *a.as<T>() == *b.as<T>(); };
    return same((const PictureContent*)nullptr) || same((const TextContent*)nullptr) ||
           same((const FillContent*)nullptr) || same((const ShapeContent*)nullptr) ||
           same((const EchoContent*)nullptr) || same((const CodeContent*)nullptr);
}

Gradient gradientOf(GradientKind kind) {
    return {kind,     GradientSpread::Mirror,
            {1.5, 2}, {30, 1 / 3.0},
            -2.5,     {{0, {1, 0, 0, 1}}, {0.7, {0, 1, 0, 0.2f}}}};
}

/// Shapes, paints, masks, clips, takes, an echo and a reference.
ReleasePtr withEverythingElse(ReleasePtr r, const PanelRef& panel, const SourcePtr& photo) {
    ShapeContent free;
    free.kind = ShapeKind::Free;
    free.contours = {{{{{0, 0}, {-1, 0.5}, {1, -0.5}}, {{7, 9}, {}, {}}}, false}};
    free.fill.reset();
    free.stroke = StrokeStyle{1.25,           StrokePlace::Outside, LineJoin::Round,
                              LineCap::Round, LineCap::Arrow,       gradientOf(GradientKind::Spiral)};
    ShapeContent star;
    star.kind = ShapeKind::Star;
    star.points = 7, star.inner = 0.3, star.corner = 1.5;
    star.fill = Pattern{photo->id, {3, 4}, 0.25, 12, 0.5, true};
    Mask mask;
    mask.form = gradientOf(GradientKind::Radial);
    mask.inverted = true, mask.linked = false, mask.on = false;
    mask.strength = 0.4, mask.feather = 2.5;
    for (Layer layer :
         {layerOf("Path", free), layerOf("Star", star),
          layerOf("Clouds", FillContent{Clouds{{0, 0, 1, 1}, {1, 1, 0, 0.4f}, 33.5, 4, 1.75, 77}}),
          layerOf("Paper", FillContent{Paper{{0.6f, 0.2f, 0, 1}, 0.3, 2.5, 9}})}) {
        layer.mask = std::make_shared<const Mask>(mask);
        layer.clipped = true, layer.locked = true;
        layer.placement.skew = 12.5;
        r = withLayer(r, panel, layer);
        mask.form =
            layer.name == "Path" ? Mask::Form(PictureContent{photo->id, {0, 0, 0.5, 1}}) : Mask::Form(star);
    }
    r = withLayer(r, panel, layerOf("Echo", EchoContent{r->pieces[0]->id, "front", "A", true}));
    r = withLayer(r, panel,
                  layerOf("Code", CodeContent{CodeKind::UpcA, "{barcode}", {0, 0, 0, 1}, std::nullopt}));
    Layer group = layerOf("Passing", GroupContent{{}, true});
    r = withLayer(r, panel, group);
    Reference reference{photo->id, {{1, 2}, 3, 4}, Reference::Way::Split, 0.25, 0.75};
    r = withReference(r, panel, reference);
    return withLinearLight(withNewTake(r, panel.piece), true);
}

/// Every kind of layer, odd figures and letters on a sleeve.
ReleasePtr fullRelease() {
    Brief brief;
    brief.artist = "The Gannet Hours", brief.title = "Slack Tide Almanac",
    brief.label = "Gannet Street Recordings";
    brief.catalogue = "GSR 027", brief.year = "2031";
    brief.mood = {"slow", "salt"}, brief.genre = "Harbour folk", brief.audience = "Þeir sem vaka",
    brief.notes = "Two\nlines";
    brief.tracks = {{"A", "Þorskur við Höfn", 222}, {"B", "“Nightjar” \\ & <b>", 287}};
    ReleasePtr r = withBrief(std::make_shared<const Release>(), brief);
    const auto forms = shippedForms().value();
    for (const auto& form : forms)
        if (form->id == "digital-cover" || form->id == "podcast-tile" || form->id == "sleeve-12")
            r = withPiece(r, form).value();
    const std::string sleeve = r->pieces.back()->id;
    r = withParameter(r, sleeve, "spine", 4.25).value();
    const PanelRef back{sleeve, "back"};
    const auto photo = importBytes(jpegOf(60, 40, grey), "photo.jpg").value().source,
               drawing = importBytes(pngOf(20, 20, grey), "scan.png").value().source;
    auto known = std::make_shared<Source>(*photo);
    known->facts = {SourceKind::Scan, "Quay",        {"rope", "tar"},  "Orri Vane",
                    "Harbour Light",  "Quay Open 1", "Photo: O. Vane", "x"};
    r = withSource(withSource(r, known), drawing);
    r = withSwatches(r, {{"low water", *rgbaFromHex("#1e7a6c")}, {"salt", *rgbaFromHex("#d9d3c6")}});
    const std::string swatch = r->palette[0].id;
    r = withLayer(r, wallPanel(), pinnedPicture(*known, 400, {500, 500}));
    r = withLayer(r, wallPanel(), pinnedColour({r->palette[1].colour, r->palette[1].id}, "salt", {900, 500}));
    Layer picture = layerOf("Photo", PictureContent{photo->id, {0.1, 0.2, 1.0 / 3, 0.5}});
    picture.placement = {{1 / 3.0, -7.25}, 0.1, 0.30000000000000004, 12.5, true, false};
    picture.blend = BlendMode::Overlay;
    picture.opacity = 0.35;
    r = withLayer(r, back, picture);
    TextContent text;
    text.spec.text = "{tracks A}\n„Ðæja“ {title}";
    text.spec.align = Align::Right;
    text.colour = Ink({1, 0.2f, 0, 0.4f}, swatch);
    text.spec.letters.letterCase = LetterCase::Capitals;
    std::string words, group;
    r = noting(words, withLayer(r, back, layerOf("Words", text)));
    r = noting(group, *withGrouped(r, back, {words}));
    r = withLayer(r, back, layerOf("Scan", PictureContent{drawing->id, {0, 0, 1, 1}}), words);
    r = withLayer(r, back,
                  layerOf("Dusk", FillContent{evenRun({0, 0, 321, 321}, 30, {0, 0.6f, 1, 1}, {1, 1, 0, 0})}));
    r = withChangedLayer(r, back, group, [](Layer& l) { l.on = false; });
    return withEverythingElse(r, back, photo);
}

std::string fileText(const std::filesystem::path& file) {
    const auto bytes = readFile(file).value();
    return {bytes.begin(), bytes.end()};
}

/// Replaces or (no bytes) deletes an entry of a zip.
void putEntry(const std::filesystem::path& file, const std::string& name,
              const std::optional<std::string>& text) {
    zip_t* zip = zip_open(file.c_str(), 0, nullptr);
    if (!text)
        zip_delete(zip, zip_uint64_t(zip_name_locate(zip, name.c_str(), 0)));
    else
        zip_file_add(zip, name.c_str(), zip_source_buffer(zip, text->data(), text->size(), 0),
                     ZIP_FL_OVERWRITE);
    if (zip_close(zip) != 0) qFatal("the zip was not changed");
}

std::string entryText(const std::filesystem::path& file, const std::string& name) {
    zip_t* zip = zip_open(file.c_str(), ZIP_RDONLY, nullptr);
    zip_stat_t stat;
    zip_stat(zip, name.c_str(), 0, &stat);
    std::string text(stat.size, ' ');
    zip_file_t* entry = zip_fopen(zip, name.c_str(), 0);
    zip_fread(entry, text.data(), text.size());
    zip_fclose(entry);
    zip_discard(zip);
    return text;
}

std::string with(std::string text, const std::string& what, const std::string& by) {
    const size_t at = text.find(what);
    if (at == text.npos) qFatal("“%s” is not in the file", what.c_str());
    return text.replace(at, what.size(), by);
}

/// Files may hold at most that many bytes while this lives; going over fails as a full disk does.
class FileSizeLimit {
  public:
    explicit FileSizeLimit(rlim_t bytes)
        : signal_(std::signal(SIGXFSZ, SIG_IGN)) {
        getrlimit(RLIMIT_FSIZE, &before_);
        const rlimit small{bytes, before_.rlim_max};
        setrlimit(RLIMIT_FSIZE, &small);
    }
    ~FileSizeLimit() {
        setrlimit(RLIMIT_FSIZE, &before_);
        std::signal(SIGXFSZ, signal_);
    }
    FileSizeLimit(const FileSizeLimit&) = delete;
    FileSizeLimit& operator=(const FileSizeLimit&) = delete;

  private:
    rlimit before_{};
    void (*signal_)(int);
};

/// Root may write anywhere; while this lives the test is somebody else.
class AsNobody {
  public:
    AsNobody()
        : was_(geteuid()) {
        if (was_ == 0 && seteuid(65534) != 0) qFatal("cannot step down from root");
    }
    ~AsNobody() {
        if (geteuid() != was_ && seteuid(was_) != 0) qFatal("cannot step up again");
    }
    AsNobody(const AsNobody&) = delete;
    AsNobody& operator=(const AsNobody&) = delete;

  private:
    uid_t was_;
};

} // namespace

class ProjectTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder;
    FormList forms;
    std::filesystem::path at(const char* name) const {
        return std::filesystem::path(folder->path().toStdString()) / name;
    }
    QStringList names() const {
        return QDir(folder->path()).entryList(QDir::Files | QDir::Hidden | QDir::NoDotAndDotDot);
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        forms = shippedForms().value();
    }

    void saveOpenSave() {
        const ReleasePtr before = fullRelease();
        const auto file = at("Lág á við Höfn – demo.glyptos");
        QVERIFY2(saveProject(*before, file), "not saved");
        const auto opened = openProject(file, forms);
        QVERIFY2(opened, qPrintable(sentence(opened)));
        QCOMPARE(QString::fromStdString(releaseToJson(**opened)),
                 QString::fromStdString(releaseToJson(*before)));
        for (const SourcePtr& s : before->sources)
            QVERIFY(**(*opened)->source(s->id)->bytes->read() == **s->bytes->read());
        const auto second = at("second.glyptos");
        QVERIFY(saveProject(**opened, second));
        QVERIFY(fileText(second) == fileText(file));
        QVERIFY((*opened)->brief == before->brief);
        // Not only the same text: the same values.
        const std::string sleeve = before->pieces.back()->id;
        QVERIFY((*opened)->linearLight &&
                (*opened)->piece(sleeve)->references == before->piece(sleeve)->references);
        for (const char* take : {"A", "B"}) {
            const Stack& a = before->piece(sleeve)->take(take)->stack("back");
            const Stack& b = (*opened)->piece(sleeve)->take(take)->stack("back");
            QCOMPARE(a.size(), b.size());
            for (size_t i = 0; i < a.size(); ++i) {
                QVERIFY(a[i]->placement == b[i]->placement && a[i]->clipped == b[i]->clipped &&
                        a[i]->locked == b[i]->locked && bool(a[i]->mask) == bool(b[i]->mask));
                if (a[i]->mask) QVERIFY(*a[i]->mask == *b[i]->mask);
                if (!a[i]->as<GroupContent>()) QVERIFY(sameContent(*a[i], *b[i]));
            }
        }
    }

    void savedFileIsReadableByAnyZip() {
        const auto file = at("a.glyptos");
        QVERIFY(saveProject(*fullRelease(), file));
        QVERIFY(fileText(file).substr(30, 8 + 29).starts_with("mimetypeapplication/x-glyptos-release"));
        QVERIFY((std::filesystem::status(file).permissions() & std::filesystem::perms::group_read) !=
                std::filesystem::perms::none);
    }

    void wrongFiles_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QString>("says");
        QTest::newRow("missing") << "gone"
                                 << "there is no such file";
        QTest::newRow("not a zip") << "words"
                                   << "not a Glyptos release";
        QTest::newRow("zero bytes") << "empty"
                                    << "not a Glyptos release";
        QTest::newRow("cut short") << "cut"
                                   << "cut short";
        QTest::newRow("bytes changed") << "flipped"
                                       << "damaged";
        QTest::newRow("no release.json") << "no json"
                                         << "“release.json” is missing";
        QTest::newRow("broken JSON") << "bad json"
                                     << "not valid JSON";
        QTest::newRow("missing picture") << "no picture"
                                         << "the picture “photo.jpg”";
        QTest::newRow("another picture") << "other picture"
                                         << "not the one it was saved with";
        QTest::newRow("unknown layer kind") << "kind"
                                            << "unknown kind “hologram”";
        QTest::newRow("unknown blend") << "blend"
                                       << "“sparkle” is not known";
        QTest::newRow("newer version") << "newer"
                                       << "newer version of Glyptos";
        QTest::newRow("unknown form") << "form"
                                      << "“sleeve-99”, which is not installed";
        QTest::newRow("figure out of range") << "figure"
                                             << "must lie between";
        QTest::newRow("id twice") << "twice"
                                  << "used twice";
        QTest::newRow("opacity of 7") << "opacity"
                                      << "between 0 and 1";
        QTest::newRow("path out of the zip") << "path"
                                             << "is not an id";
    }
    void wrongFiles() {
        QFETCH(QString, kind);
        QFETCH(QString, says);
        const auto file = at("the file.glyptos");
        const ReleasePtr good = fullRelease();
        QVERIFY(saveProject(*good, file));
        const std::string json = entryText(file, "release.json");
        const auto spoil = [&](const std::string& what, const std::string& by) {
            putEntry(file, "release.json", with(json, what, by));
        };
        const std::string photo = "pictures/" + good->sources[0]->id + ".jpeg";
        if (kind == "gone") std::filesystem::remove(file);
        if (kind == "words") write(file, {'a', 'b', 'c'});
        if (kind == "empty") write(file, {});
        if (kind == "cut") std::filesystem::resize_file(file, std::filesystem::file_size(file) * 2 / 3);
        if (kind == "flipped") {
            auto bytes = readFile(file).value();
            bytes[fileText(file).find(photo) + photo.size() + 300] ^= 0x5a;
            write(file, bytes);
        }
        if (kind == "no json") putEntry(file, "release.json", std::nullopt);
        if (kind == "bad json") putEntry(file, "release.json", json.substr(0, json.size() / 2));
        if (kind == "no picture") putEntry(file, photo, std::nullopt);
        if (kind == "other picture") {
            const auto other = jpegOf(61, 40, grey);
            putEntry(file, photo, std::string(other.begin(), other.end()));
        }
        if (kind == "kind") spoil("\"kind\": \"fill\"", "\"kind\": \"hologram\"");
        if (kind == "blend") spoil("\"blend\": \"overlay\"", "\"blend\": \"sparkle\"");
        if (kind == "newer") spoil("\"version\": 13", "\"version\": 14");
        if (kind == "form") spoil("\"form\": \"sleeve-12\"", "\"form\": \"sleeve-99\"");
        if (kind == "figure") spoil("\"spine\": 4.25", "\"spine\": 4000");
        if (kind == "twice")
            spoil("\"id\": \"" + good->pieces[1]->id + "\"", "\"id\": \"" + good->pieces[0]->id + "\"");
        if (kind == "opacity") spoil("\"opacity\": 0.35", "\"opacity\": 7");
        if (kind == "path")
            spoil("\"id\": \"" + good->sources[0]->id + "\"", "\"id\": \"../../../../etc/passwd\"");

        const auto opened = openProject(file, forms);
        QVERIFY(!opened);
        const QString message = sentence(opened);
        QVERIFY2(message.contains(says), qPrintable(message));
        QVERIFY2(message.contains("“the file.glyptos” was not opened") && message.count('\n') == 0,
                 qPrintable(message));
    }

    void fullDiskKeepsWhatWasThere() {
        const auto file = at("release.glyptos");
        QVERIFY(saveProject(*std::make_shared<const Release>(), file));
        const std::string before = fileText(file);
        ReleasePtr large = fullRelease();
        large = withSource(
            large,
            importBytes(
                pngOf(200, 200,
                      [](int x, int y) {
                          return std::array<uint8_t, 4>{uint8_t(x * y), uint8_t(x ^ y), uint8_t(x), 255};
                      }),
                "large.png")
                .value()
                .source);
        large = withLayer(large, wallPanel(), pinnedPicture(*large->sources.back(), 100, {0, 0}));
        Result<void> saved;
        {
            const FileSizeLimit limit(4096);
            saved = saveProject(*large, file);
        }
        QVERIFY(!saved);
        QVERIFY2(sentence(saved).contains("“release.glyptos” was not written") &&
                     sentence(saved).contains("unchanged"),
                 qPrintable(sentence(saved)));
        QVERIFY(fileText(file) == before);
        QCOMPARE(names(), QStringList{"release.glyptos"});
    }

    void picturesThatNothingShowsStayBehind() {
        ReleasePtr release = screenRelease(100, 100);
        const auto grey = [](int, int) { return std::array<uint8_t, 4>{90, 90, 90, 255}; };
        for (const int side : {10, 11, 12, 13, 14})
            release = withSource(
                release, importBytes(pngOf(side, side, grey), std::to_string(side) + ".png").value().source);
        const auto s = release->sources;
        release = withLayer(release, frontOf(release), layerOf("One", PictureContent{s[0]->id}));
        release = withNewTake(release, release->pieces[0]->id);
        release = withoutLayer(release, frontOf(release),
                               stackOf(*release, frontOf(release))[0]->id); // take A has it still
        Reference reference;
        reference.source = s[1]->id;
        release = withReference(release, frontOf(release), reference);
        release = withLayer(release, wallPanel(), pinnedPicture(*s[2], 100, {0, 0}));
        Pattern pattern;
        pattern.source = s[3]->id;
        release = withLayer(release, frontOf(release), layerOf("Pattern", FillContent{pattern}));
        const ReleasePtr kept = withoutUnusedSources(release);
        QCOMPARE(kept->sources.size(), size_t(4));
        QVERIFY(!kept->source(s[4]->id));
        QCOMPARE(withoutUnusedSources(kept), kept);
    }

    void readOnlyFolder() {
        QDir(folder->path()).mkdir("locked");
        const auto locked = at("locked");
        std::filesystem::permissions(locked, std::filesystem::perms(0555));
        std::filesystem::permissions(folder->path().toStdString(), std::filesystem::perms(0755));
        Result<void> saved;
        {
            const AsNobody nobody;
            saved = saveProject(*fullRelease(), locked / "a.glyptos");
        }
        QVERIFY(!saved);
        QVERIFY2(sentence(saved).contains("“a.glyptos” was not written (Permission denied)"),
                 qPrintable(sentence(saved)));
        QVERIFY(std::filesystem::is_empty(locked));
    }

    void folderThatIsGone() {
        const auto saved = saveProject(*fullRelease(), at("gone/a.glyptos"));
        QVERIFY(sentence(saved).contains("No such file"));
    }

    void deepGroupsAreRefused() {
        std::string layers = "[]";
        for (int i = 0; i < 200; ++i)
            layers = "[{\"id\":\"g" + std::to_string(i) +
                     "\",\"name\":\"\",\"on\":true,\"opacity\":1,\"blend\":\"normal\",\"placement\":{\"x\":0,"
                     "\"y\":0,\"scaleX\":1,\"scaleY\":1,\"turn\":0,\"flipX\":false,\"flipY\":false},\"kind\":"
                     "\"group\",\"layers\":" +
                     layers + "}]";
        const std::string json =
            "{\"version\":1,\"brief\":{\"artist\":\"\",\"title\":\"\",\"label\":\"\",\"catalogue\":\"\","
            "\"year\":\"\",\"tracks\":[]},\"nextId\":1,\"sources\":[],\"pieces\":[{\"id\":\"p\",\"name\":"
            "\"\",\"form\":\"digital-cover\",\"values\":{},\"current\":0,\"takes\":[{\"id\":\"A\",\"panels\":"
            "{\"front\":" +
            layers + "}}]}]}";
        const auto release = releaseFromJson(json, forms);
        QVERIFY2(sentence(release).contains("nested too deeply"), qPrintable(sentence(release)));
    }
};

GLYPTOS_TEST(ProjectTest)
#include "project_test.moc"
