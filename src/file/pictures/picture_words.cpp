#include "file/pictures/picture_words.h"

#include "base/text.h"
#include "file/pictures/codecs.h"
#include "file/text_bytes.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <exiv2/exiv2.hpp>
#include <mutex>

namespace glyptos {
namespace {

void lockXmp(void* mutex, bool lock) {
    auto& m = *static_cast<std::mutex*>(mutex);
    lock ? m.lock() : m.unlock();
}

/// The XMP toolkit is shared by all threads; it has to be told how to lock.
void prepareXmp() {
    static std::mutex mutex;
    static const bool ready = Exiv2::XmpParser::initialize(lockXmp, &mutex);
    (void)ready;
}

/// One line of UTF-8 without control characters and blanks at the ends.
std::string cleaned(const std::string& raw) {
    std::string text = textOf({reinterpret_cast<const uint8_t*>(raw.data()), raw.size()});
    std::replace_if(
        text.begin(), text.end(), [](char c) { return static_cast<unsigned char>(c) < 0x20; }, ' ');
    return trimmed(text);
}

/// XMP alternatives begin with their language: lang="x-default" Words.
std::string withoutLanguage(const std::string& text) {
    if (!text.starts_with("lang=\"")) return text;
    const size_t end = text.find("\" ");
    return end == text.npos ? text : text.substr(end + 2);
}

class Words {
  public:
    explicit Words(Exiv2::Image& image)
        : exif_(image.exifData())
        , iptc_(image.iptcData())
        , xmp_(image.xmpData()) {}

    /// The first of the keys that says anything.
    std::string first(std::initializer_list<const char*> keys) const {
        for (const char* key : keys)
            if (std::string text = cleaned(of(key)); !text.empty()) return text;
        return {};
    }
    std::vector<std::string> tags() const {
        std::vector<std::string> out;
        const auto add = [&](const std::string& raw) {
            const std::string tag = cleaned(raw);
            if (!tag.empty()) addNew(out, tag);
        };
        if (const auto found = xmp_.findKey(Exiv2::XmpKey("Xmp.dc.subject")); found != xmp_.end())
            for (long i = 0; i < long(found->count()); ++i) add(found->toString(i));
        for (const auto& datum : iptc_)
            if (datum.key() == "Iptc.Application2.Keywords") add(datum.toString());
        return out;
    }

  private:
    std::string of(const std::string& key) const {
        if (key.starts_with("Xmp.")) {
            const auto found = xmp_.findKey(Exiv2::XmpKey(key));
            return found == xmp_.end() ? std::string() : withoutLanguage(found->toString());
        }
        if (key.starts_with("Iptc.")) {
            const auto found = iptc_.findKey(Exiv2::IptcKey(key));
            return found == iptc_.end() ? std::string() : found->toString();
        }
        const auto found = exif_.findKey(Exiv2::ExifKey(key));
        return found == exif_.end() ? std::string() : found->toString();
    }
    const Exiv2::ExifData& exif_;
    const Exiv2::IptcData& iptc_;
    const Exiv2::XmpData& xmp_;
};

} // namespace

SourceFacts readPictureWords(std::span<const uint8_t> bytes) {
    SourceFacts out;
    if (codecs::promisesMoreThanItHolds(bytes, false)) return out;
    try {
        prepareXmp();
        Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
        const auto image = Exiv2::ImageFactory::open(bytes.data(), static_cast<long>(bytes.size()));
        image->readMetadata();
        const Words words(*image);
        out.title =
            words.first({"Xmp.dc.title", "Iptc.Application2.ObjectName", "Exif.Image.ImageDescription"});
        out.tags = words.tags();
        out.maker = words.first({"Xmp.dc.creator", "Iptc.Application2.Byline", "Exif.Image.Artist"});
        out.licence = words.first({"Xmp.xmpRights.UsageTerms", "Xmp.dc.rights", "Iptc.Application2.Copyright",
                                   "Exif.Image.Copyright"});
        out.credit = words.first({"Xmp.photoshop.Credit", "Iptc.Application2.Credit"});
        out.origin =
            words.first({"Xmp.xmpRights.WebStatement", "Xmp.photoshop.Source", "Iptc.Application2.Source"});
        out.notes = words.first({"Xmp.dc.description", "Iptc.Application2.Caption"});
    } catch (const std::exception&) {
        return out;
    }
    return out;
}

std::string rawFileKind(std::span<const uint8_t> bytes, const std::string& name) {
    constexpr std::array<const char*, 14> kEndings{".dng", ".nef", ".nrw", ".cr2", ".cr3", ".crw", ".arw",
                                                   ".orf", ".raf", ".rw2", ".pef", ".srw", ".3fr", ".iiq"};
    std::string lower = name;
    std::transform(lower.begin(), lower.end(), lower.begin(),
                   [](unsigned char c) { return char(std::tolower(c)); });
    const auto found =
        std::find_if(kEndings.begin(), kEndings.end(), [&](const char* e) { return lower.ends_with(e); });
    if (found != kEndings.end()) return std::string("a camera's raw file (") + *found + ")";
    const std::string_view head(reinterpret_cast<const char*>(bytes.data()),
                                std::min<size_t>(bytes.size(), 16));
    const bool marked = head.starts_with("FUJIFILMCCD-RAW") || head.substr(0, 4) == "IIRO" ||
                        head.substr(0, 3) == "IIU" ||
                        (head.size() >= 10 && head.substr(8, 2) == "CR" && head.starts_with("II*"));
    return marked ? "a camera's raw file" : "";
}

} // namespace glyptos
