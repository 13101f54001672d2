#include "file/track_lists.h"

#include "base/text.h"

#include <algorithm>
#include <cmath>
#include <taglib/fileref.h>
#include <taglib/tag.h>
#include <taglib/tdebuglistener.h>
#include <taglib/tpropertymap.h>

namespace glyptos {
namespace {

/// Damaged files are told of in our own words.
class Silence : public TagLib::DebugListener {
    void printMessage(const TagLib::String&) override {}
};

struct Heard {
    unsigned disc = 0, number = 0;
    std::string file, title, artist, album;
    int seconds = 0;
};

std::string utf8(const TagLib::String& s) {
    return trimmed(validUtf8(s.to8Bit(true)));
}

std::optional<Heard> hear(const std::filesystem::path& file) {
    const TagLib::FileRef ref(file.c_str(), true, TagLib::AudioProperties::Average);
    if (ref.isNull() || !ref.audioProperties() || ref.audioProperties()->lengthInMilliseconds() <= 0)
        return std::nullopt;
    Heard out;
    out.file = nameOf(file);
    out.seconds = int(std::lround(ref.audioProperties()->lengthInMilliseconds() / 1000.0));
    if (const TagLib::Tag* tag = ref.tag()) {
        out.number = tag->track();
        out.title = utf8(tag->title());
        out.artist = utf8(tag->artist());
        out.album = utf8(tag->album());
    }
    const TagLib::StringList disc = ref.file()->properties()["DISCNUMBER"];
    if (!disc.isEmpty()) out.disc = unsigned(std::max(0, disc.front().toInt()));
    if (out.title.empty()) out.title = stemOf(file);
    return out;
}

} // namespace

Result<TrackList> tracksFromAudio(const std::vector<std::filesystem::path>& files) {
    static Silence silence;
    TagLib::setDebugListener(&silence);
    TrackList out;
    std::vector<Heard> all;
    for (const auto& file : files) {
        if (auto heard = hear(file))
            all.push_back(std::move(*heard));
        else
            out.notes.push_back("“" + nameOf(file) +
                                "” is not an audio file that can be read, or is cut short; it was left out.");
    }
    if (all.empty())
        return fail(Fault::Damaged,
                    out.notes.size() == 1
                        ? out.notes[0]
                        : "None of the files is audio that can be read; the brief is as it was.");
    std::stable_sort(all.begin(), all.end(), [](const Heard& a, const Heard& b) {
        return std::tie(a.disc, a.number, a.file) < std::tie(b.disc, b.number, b.file);
    });
    for (const Heard& h : all) {
        out.tracks.push_back({{}, h.title});
        setLength(out.tracks.back(), h.seconds, out.notes);
        if (out.artist.empty()) out.artist = h.artist;
        if (out.title.empty()) out.title = h.album;
    }
    return out;
}

} // namespace glyptos
