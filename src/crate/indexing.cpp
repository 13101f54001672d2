#include "crate/indexing.h"

#include "base/text.h"
#include "crate/look_table.h"
#include "crate/thumbnails.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_words.h"

#include <algorithm>
#include <cctype>
#include <chrono>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

namespace fs = std::filesystem;

constexpr int kLookSide = 512; // px of the longer side that a look at a picture needs
constexpr size_t kBatch = 64;  // files between two writes to the crate

int64_t now() {
    return std::chrono::duration_cast<std::chrono::seconds>(
               std::chrono::system_clock::now().time_since_epoch())
        .count();
}

int64_t modifiedAt(const fs::path& file) {
    std::error_code code;
    const auto time = fs::last_write_time(file, code);
    if (code) return 0;
    return std::chrono::duration_cast<std::chrono::seconds>(
               std::chrono::file_clock::to_sys(time).time_since_epoch())
        .count();
}

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return char(std::tolower(c)); });
    return text;
}

SourceKind guessedKind(const std::string& path, const std::string& format) {
    const std::string words = lower(path);
    const auto says = [&](std::initializer_list<const char*> any) {
        return std::any_of(any.begin(), any.end(),
                           [&](const char* w) { return words.find(w) != words.npos; });
    };
    if (format == "cube") return SourceKind::LookTable;
    if (says({"texture", "grain", "paper", "rust"})) return SourceKind::Texture;
    if (says({"scan"})) return SourceKind::Scan;
    if (says({"illustration", "drawing", "engraving"})) return SourceKind::Illustration;
    return format == "svg" || says({"element", "ornament"}) ? SourceKind::Element : SourceKind::Photo;
}

/// "lamp-room_03" as a title.
std::string titleFrom(const std::string& name) {
    std::string out = stemOf(name);
    std::replace(out.begin(), out.end(), '_', ' ');
    std::replace(out.begin(), out.end(), '-', ' ');
    if (!out.empty()) out[0] = char(std::toupper(static_cast<unsigned char>(out[0])));
    return out;
}

void describe(CrateEntry& entry, const Pyramid& look) {
    entry.palette = paletteOf(look, 6, size_t(1) << 18);
    entry.traits = traitsOf(look, entry.palette);
    entry.mainColour = mainColourOf(entry.palette);
}

Result<Pyramid> lookAt(const std::vector<uint8_t>& bytes, const std::string& name, const PictureInfo& info) {
    const int longer = std::max(info.width, info.height);
    int reduce = 1;
    while (reduce < kLookReduction && longer / (2 * reduce) >= kLookSide) reduce *= 2;
    const double scale = info.format == "svg" ? std::min(1.0, 2.0 * kLookSide / longer) : 1;
    auto picture = decodePicture(bytes, name, pressProfileBytes(), reduce, scale);
    if (!picture) return tl::unexpected(picture.error());
    return Pyramid(std::move(*picture));
}

/// Files to look at, folders walked. What cannot be walked is told.
std::vector<fs::path> listed(const std::vector<fs::path>& paths, std::vector<std::string>& troubles) {
    std::vector<fs::path> out;
    for (const fs::path& path : paths) {
        std::error_code code;
        if (!fs::is_directory(path, code)) {
            out.push_back(fs::absolute(path, code).lexically_normal());
            continue;
        }
        fs::recursive_directory_iterator at(path, fs::directory_options::skip_permission_denied, code), end;
        if (code)
            troubles.push_back("The folder “" + path.string() + "” cannot be read (" + code.message() + ").");
        for (; !code && at != end; at.increment(code)) {
            const bool hidden = at->path().filename().string().starts_with(".");
            std::error_code kind;
            if (at->is_directory(kind)) {
                if (hidden) at.disable_recursion_pending();
            } else if (!hidden && at->is_regular_file(kind)) {
                out.push_back(fs::absolute(at->path(), kind).lexically_normal());
            }
        }
        if (code)
            troubles.push_back("The folder “" + path.string() +
                               "” vanished while it was read; what had been found stays.");
    }
    std::sort(out.begin(), out.end());
    return out;
}

/// Whether the crate knows the file as it is. Of a copy only the size is kept.
bool isKnown(const Shelf& shelf, const fs::path& file) {
    const EntryPtr entry = shelf.at(file.string());
    std::error_code code;
    return entry && entry->fileBytes == int64_t(fs::file_size(file, code)) && !code &&
           (entry->path != file || entry->modified == modifiedAt(file));
}

/// Puts what was found into the report and, when it is new or known from elsewhere, into what is to be
/// written.
class Gathering {
  public:
    Gathering(Crate& crate, AddReport& report)
        : crate_(crate)
        , report_(report)
        , shelf_(crate.shelf()) {}

    void take(const fs::path& file, Result<Examined>&& found) {
        if (!found) return report_.troubles.push_back(found.error().message);
        CrateEntry& entry = found->entry;
        entry.path = file.string();
        const auto waiting =
            std::find_if(next_.begin(), next_.end(), [&](const CrateEntry& e) { return e.id == entry.id; });
        const EntryPtr there = shelf_->entry(entry.id);
        if (waiting != next_.end()) return addCopy(*waiting, entry.path);
        if (!there) {
            ++report_.added;
            return next_.push_back(std::move(entry));
        }
        CrateEntry known = *there;
        addCopy(known, entry.path);
        if (known.copies != there->copies) next_.push_back(std::move(known));
    }
    Result<void> write() {
        auto written = crate_.put(next_);
        next_.clear();
        shelf_ = crate_.shelf();
        return written;
    }

  private:
    void addCopy(CrateEntry& entry, const std::string& path) {
        ++report_.already;
        if (entry.path != path &&
            std::find(entry.copies.begin(), entry.copies.end(), path) == entry.copies.end())
            entry.copies.push_back(path);
    }
    Crate& crate_;
    AddReport& report_;
    ShelfPtr shelf_;
    std::vector<CrateEntry> next_;
};

/// What `from` says, where it says anything.
void merge(SourceFacts& into, const SourceFacts& from) {
    for (const auto member : {&SourceFacts::title, &SourceFacts::maker, &SourceFacts::origin,
                              &SourceFacts::licence, &SourceFacts::credit, &SourceFacts::notes})
        if (!(from.*member).empty()) into.*member = from.*member;
    if (!from.tags.empty()) into.tags = from.tags;
    into.kind = from.kind;
}

} // namespace

QImage thumbnailOf(const Pyramid& picture) {
    int level = picture.firstLevel();
    while (level + 1 < picture.levels() &&
           std::max(picture.level(level + 1).width, picture.level(level + 1).height) >= kThumbnailSide)
        ++level;
    const Picture& p = picture.level(level);
    const QImage image = imageOf(p);
    const QImage small =
        std::max(p.width, p.height) > kThumbnailSide
            ? image.scaled(kThumbnailSide, kThumbnailSide, Qt::KeepAspectRatio, Qt::SmoothTransformation)
            : image;
    return small.convertToFormat(p.opaque ? QImage::Format_RGB888 : QImage::Format_RGBA8888);
}

Result<Examined> examineBytes(const std::vector<uint8_t>& bytes, const std::string& name) {
    Examined out;
    CrateEntry& entry = out.entry;
    entry.id = contentId(bytes);
    entry.path = name;
    entry.fileBytes = int64_t(bytes.size());
    entry.added = now();
    std::optional<Pyramid> look;
    if (isLookTable(bytes)) {
        auto table = previewLookTable(bytes, name);
        if (!table) return tl::unexpected(table.error());
        entry.format = "cube";
        look.emplace(std::move(*table));
    } else {
        const auto info = inspectNewPicture(bytes, name);
        if (!info) return tl::unexpected(info.error());
        auto seen = lookAt(bytes, name, *info);
        if (!seen) return tl::unexpected(seen.error());
        look.emplace(std::move(*seen));
        entry.format = info->format;
        entry.width = info->width, entry.height = info->height;
        entry.pages = info->pages;
        if (info->format != "svg") entry.facts = readPictureWords(bytes);
    }
    describe(entry, *look);
    entry.facts.kind = guessedKind(name, entry.format);
    if (entry.facts.title.empty()) entry.facts.title = titleFrom(name);
    out.thumbnail = thumbnailOf(*look);
    return out;
}

Result<Examined> examineFile(const fs::path& file) {
    const int64_t modified = modifiedAt(file);
    auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto out = examineBytes(*bytes, nameOf(file));
    if (!out) return out;
    out->entry.path = file.string();
    out->entry.modified = modified;
    out->entry.facts.kind = guessedKind(nameOf(file.parent_path()) + "/" + nameOf(file), out->entry.format);
    return out;
}

Result<AddReport> addFiles(Crate& crate, const std::vector<fs::path>& paths, const AddProgress& progress,
                           const std::atomic<bool>* cancel) {
    AddReport report;
    const std::vector<fs::path> files = listed(paths, report.troubles);
    Gathering gathering(crate, report);
    const ShelfPtr shelf = crate.shelf();
    for (size_t from = 0; from < files.size() && !isCancelled(cancel); from += kBatch) {
        const size_t count = std::min(kBatch, files.size() - from);
        std::vector<std::optional<Result<Examined>>> found(count);
        tbb::parallel_for(size_t(0), count, [&](size_t i) {
            const fs::path& file = files[from + i];
            if (isCancelled(cancel) || isKnown(*shelf, file)) return;
            found[i] = examineFile(file);
            if (*found[i] && !shelf->entry((*found[i])->entry.id))
                writeThumbnail(file, (*found[i])->entry.modified, (*found[i])->thumbnail);
        });
        for (size_t i = 0; i < count; ++i)
            if (found[i])
                gathering.take(files[from + i], std::move(*found[i]));
            else if (!isCancelled(cancel))
                ++report.already;
        if (auto written = gathering.write(); !written) return tl::unexpected(written.error());
        if (progress) progress(from + count, files.size());
    }
    return report;
}

Result<std::string> addBytes(Crate& crate, const std::vector<uint8_t>& bytes, const std::string& name,
                             const SourceFacts& facts) {
    auto found = examineBytes(bytes, name);
    if (!found) return tl::unexpected(found.error());
    CrateEntry& entry = found->entry;
    if (crate.shelf()->entry(entry.id)) return entry.id; // what is known of it stays
    merge(entry.facts, facts);
    auto path = crate.keep(bytes, entry.id, entry.format);
    if (!path) return tl::unexpected(path.error());
    entry.path = *path;
    const fs::path file = crate.fileOf(entry);
    entry.modified = modifiedAt(file);
    writeThumbnail(file, entry.modified, found->thumbnail);
    if (auto written = crate.put({entry}); !written) return tl::unexpected(written.error());
    return entry.id;
}

} // namespace glyptos
