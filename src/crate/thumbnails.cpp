#include "crate/thumbnails.h"
#include "file/disk/atomic_file.h"
#include "file/xdg_folders.h"

#include <QBuffer>
#include <QCryptographicHash>
#include <QDir>
#include <QImageReader>
#include <QUrl>
#include <algorithm>
#include <cstdlib>
#include <sys/stat.h>

namespace glyptos {
namespace {

QByteArray uriOf(const std::filesystem::path& file) {
    return QUrl::fromLocalFile(QString::fromStdString(file.string())).toEncoded();
}

} // namespace

QImage imageOf(const Picture& picture) {
    // Painters are quickest with premultiplied pixels, which opaque ones are as they stand.
    constexpr auto kPainted = QImage::Format_RGBA8888_Premultiplied;
    QImage out(picture.width, picture.height, picture.opaque ? kPainted : QImage::Format_RGBA8888);
    const size_t samples = 4 * size_t(picture.width);
    for (int y = 0; y < picture.height; ++y) {
        uchar* row = out.scanLine(y);
        if (picture.is16())
            std::transform(picture.row<uint16_t>(y), picture.row<uint16_t>(y) + samples, row,
                           [](uint16_t v) { return uchar(v >> 8); });
        else
            std::copy_n(picture.row<uint8_t>(y), samples, row);
    }
    return picture.opaque ? out : out.convertToFormat(kPainted);
}

std::filesystem::path thumbnailFolder() {
    return cacheHome() / "thumbnails";
}

std::filesystem::path thumbnailFile(const std::filesystem::path& file) {
    const QByteArray name = QCryptographicHash::hash(uriOf(file), QCryptographicHash::Md5).toHex();
    return thumbnailFolder() / "large" / (name.toStdString() + ".png");
}

bool writeThumbnail(const std::filesystem::path& file, int64_t modified, const QImage& small) {
    const std::filesystem::path target = thumbnailFile(file);
    if (!QDir().mkpath(QString::fromStdString(target.parent_path().string()))) return false;
    QImage marked = small;
    marked.setText(QStringLiteral("Thumb::URI"), QString::fromLatin1(uriOf(file)));
    marked.setText(QStringLiteral("Thumb::MTime"), QString::number(modified));
    marked.setText(QStringLiteral("Software"), QStringLiteral("Glyptos"));
    QBuffer out;
    out.open(QIODevice::WriteOnly);
    constexpr int kQuick = 80; // little compression
    if (!marked.save(&out, "PNG", kQuick)) return false;
    const QByteArray& png = out.data();
    return replaceFile(
               target,
               [&](int fresh) -> Result<void> {
                   ::fchmod(fresh, S_IRUSR | S_IWUSR); // thumbnails are the owner's alone
                   return writeAll(fresh, {reinterpret_cast<const uint8_t*>(png.data()), size_t(png.size())});
               })
        .has_value();
}

std::optional<QImage> readThumbnail(const std::filesystem::path& file, int64_t modified) {
    QImageReader reader(QString::fromStdString(thumbnailFile(file).string()), "png");
    const QSize size = reader.size();
    if (std::max(size.width(), size.height()) > kThumbnailSide) return std::nullopt;
    QImage image = reader.read();
    const bool ofThis = !image.isNull() &&
                        image.text(QStringLiteral("Thumb::MTime")) == QString::number(modified) &&
                        image.text(QStringLiteral("Thumb::URI")) == QString::fromLatin1(uriOf(file));
    return ofThis ? std::optional(std::move(image)) : std::nullopt;
}

} // namespace glyptos
