// Track lists from pasted text, CSV, cue sheets and audio files, and what sides and discs hold.
#include "file/track_lists.h"
#include "release/track_times.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>
#include <taglib/fileref.h>
#include <taglib/tag.h>

using namespace glyptos;
using namespace glyptos::test;
namespace fs = std::filesystem;

namespace {

/// A WAV file of 8-bit silence at 8 kHz.
void writeWav(const fs::path& file, int seconds) {
    const uint32_t data = uint32_t(8000 * seconds);
    std::string out = "RIFF....WAVEfmt ";
    const auto put = [&](uint32_t v, int n) {
        for (int i = 0; i < n; ++i) out += char(v >> (8 * i) & 255);
    };
    put(16, 4), put(1, 2), put(1, 2), put(8000, 4), put(8000, 4), put(1, 2), put(8, 2);
    out += "data";
    put(data, 4);
    out += std::string(data, '\x80');
    const uint32_t size = uint32_t(out.size()) - 8;
    for (size_t i = 0; i < 4; ++i) out[4 + i] = char(size >> (8 * i) & 255);
    std::ofstream(file, std::ios::binary) << out;
}

void tag(const fs::path& file, const char* title, unsigned number) {
    TagLib::FileRef ref(file.c_str());
    ref.tag()->setTitle(TagLib::String(title, TagLib::String::UTF8));
    ref.tag()->setTrack(number);
    ref.tag()->setArtist("The Gannet Hours");
    ref.tag()->setAlbum("Slack Tide Almanac");
    ref.save();
}

std::string told(const Result<TrackList>& list) {
    if (!list) return list.error().message;
    std::string out;
    for (const Track& t : list->tracks)
        out += t.side + "|" + t.title + "|" + std::to_string(t.seconds) + "\n";
    return out;
}

} // namespace

class TrackListsTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    fs::path at(const char* name) const { return fs::path(folder.path().toStdString()) / name; }
    void put(const char* name, const std::string& text) const {
        std::ofstream(at(name), std::ios::binary) << text;
    }

  private Q_SLOTS:
    void lines_data() {
        QTest::addColumn<QString>("line");
        QTest::addColumn<QString>("track");
        const std::pair<const char*, const char*> rows[] = {
            {"3. Lantern Room 4:08", "|Lantern Room|248"},
            {"03 - Lantern Room (4:08)", "|Lantern Room|248"},
            {"B2  Salt Ledger\t3:33", "B|Salt Ledger|213"},
            {"b2. Salt Ledger", "B|Salt Ledger|0"},
            {"Þokan yfir Höfn – 6:20", "|Þokan yfir Höfn|380"},
            {"12) Nightjar [1:02:07]", "|Nightjar|3727"},
            {"Low Water", "|Low Water|0"},
            {"7 Seas 3:00", "|7 Seas|180"},
            {"1999", "|1999|0"},
            {"4. 1999 2:55.40", "|1999|175"},
            {"2.\tThe Pilot Boat\t5:11", "|The Pilot Boat|311"},
            {"5 — Slack Tide ... 6:20", "|Slack Tide|380"},
            {"A", "|A|0"},
        };
        for (const auto& [line, track] : rows)
            QTest::newRow(line) << QString::fromUtf8(line) << QString::fromUtf8(track);
    }
    void lines() {
        QFETCH(QString, line);
        QFETCH(QString, track);
        QCOMPARE(QString::fromStdString(told(tracksFromText(line.toStdString()))), track + '\n');
    }

    void sidesFromHeadings() {
        QCOMPARE(
            told(tracksFromText("Side A:\r\n1. Low Water 3:42\r\n\r\nSIDE TWO\r\n1. Slack Tide 6:20\r\n")),
            std::string("A|Low Water|222\nB|Slack Tide|380\n"));
        QVERIFY(!tracksFromText(" \n\n"));
    }

    void csvWithAndWithoutAHead() {
        QCOMPARE(
            told(tracksFromCsv(
                "No,Title,Length,Side\r\n1,\"Low Water, again\",3:42,A\r\n2,\"Say \"\"ahoy\"\"\",255,A\r\n",
                "a.csv")),
            std::string("A|Low Water, again|222\nA|Say \"ahoy\"|255\n"));
        QCOMPARE(told(tracksFromCsv("1;Brim;3:42\n2;Fjara;0:30\n", "a.csv")),
                 std::string("|Brim|222\n|Fjara|30\n"));
        QCOMPARE(told(tracksFromCsv("title\tduration\n\"Two\nlines\"\t1:00\n", "a.tsv")),
                 std::string("|Two\nlines|60\n"));
        const auto odd = tracksFromCsv("title,time\nBrim,soon\n", "a.csv");
        QVERIFY(odd && odd->tracks.size() == 1 && odd->notes.size() == 1);
        QVERIFY(QString::fromStdString(told(tracksFromCsv("", "empty.csv"))).contains("empty.csv"));
        QVERIFY(!tracksFromCsv("1,2,3\n", "a.csv"));
    }

    void cueSheets() {
        const auto cue = tracksFromCue(
            "PERFORMER \"The Gannet Hours\"\nTITLE \"Slack Tide Almanac\"\nFILE \"a.wav\" WAVE\n"
            "  TRACK 01 AUDIO\n    TITLE \"Low Water\"\n    PERFORMER \"Guest\"\n    INDEX 01 00:00:00\n"
            "  TRACK 02 AUDIO\n    TITLE \"Lantern Room\"\n    INDEX 00 03:41:00\n    INDEX 01 03:42:37\n"
            "FILE \"b.wav\" WAVE\n  TRACK 03 AUDIO\n    INDEX 01 00:00:00\n",
            "album.cue");
        QCOMPARE(told(cue), std::string("|Low Water|222\n|Lantern Room|0\n|Track 3|0\n"));
        QCOMPARE(cue->artist, std::string("The Gannet Hours"));
        QCOMPARE(cue->title, std::string("Slack Tide Almanac"));
        QCOMPARE(cue->notes.size(), size_t(2));
        QVERIFY(!tracksFromCue("FILE \"a.wav\" WAVE\n", "none.cue"));
    }

    void filesOfEachKind() {
        put("list.txt", "1. Brim 3:42\n");
        put("list.csv", "title,length\nBrim,3:42\n");
        put("list.cue",
            "TRACK 01 AUDIO\nTITLE \"Brim\"\nINDEX 01 0:0:0\nTRACK 02 AUDIO\nINDEX 01 03:42:00\n");
        put("latin.txt", "1. \xd6ldur\xf3t 1:00\n");
        put("bom.txt", "\xef\xbb\xbf"
                       "1. Brim 1:00\n");
        put("binary.txt", std::string("a\0b", 3));
        QCOMPARE(told(readTrackList(at("list.txt"))), std::string("|Brim|222\n"));
        QCOMPARE(told(readTrackList(at("list.csv"))), std::string("|Brim|222\n"));
        QVERIFY(told(readTrackList(at("list.cue"))).starts_with("|Brim|222\n"));
        QCOMPARE(told(readTrackList(at("latin.txt"))), std::string("|Öldurót|60\n"));
        QCOMPARE(told(readTrackList(at("bom.txt"))), std::string("|Brim|60\n"));
        QVERIFY(QString::fromStdString(told(readTrackList(at("binary.txt")))).contains("binary.txt"));
        QVERIFY(!readTrackList(at("gone.txt")));
    }

    void audioFiles() {
        writeWav(at("2.wav"), 3);
        writeWav(at("1.wav"), 5);
        tag(at("2.wav"), "Brim", 1);
        tag(at("1.wav"), "Öldurót", 2);
        writeWav(at("untagged.wav"), 2);
        put("broken.mp3", "ID3 no");
        const auto list = tracksFromAudio(
            {at("1.wav"), at("2.wav"), at("broken.mp3"), at("gone.flac"), at("untagged.wav")});
        QCOMPARE(told(list), std::string("|untagged|2\n|Brim|3\n|Öldurót|5\n"));
        QCOMPARE(list->artist, std::string("The Gannet Hours"));
        QCOMPARE(list->title, std::string("Slack Tide Almanac"));
        QCOMPARE(list->notes.size(), size_t(2));
        QVERIFY(!tracksFromAudio({at("broken.mp3")}));
        QVERIFY(isAudioName("A.FLAC") && !isAudioName("a.jpg"));
    }

    void sidesAndDiscsHoldSoMuch() {
        std::vector<Track> tracks{{"A", "Long", 22 * 60}, {"B", "Longer", 22 * 60 + 1}, {"B", "?", 0}};
        const auto sides = sideTimes(tracks);
        QCOMPARE(sides.size(), size_t(2));
        QVERIFY(!sides[0].tooLong() && sides[1].tooLong() && sides[1].unknown == 1);
        QCOMPARE(timeCautions(tracks).size(), size_t(1));
        QVERIFY(timeCautions(tracks)[0].starts_with("Side B is 22:01"));
        tracks = {{"", "All", 79 * 60 + 57}};
        QVERIFY(timeCautions(tracks).empty());
        tracks.push_back({"", "More", 1});
        QCOMPARE(timeCautions(tracks).size(), size_t(1));
    }
};

GLYPTOS_TEST(TrackListsTest)
#include "track_lists_test.moc"
