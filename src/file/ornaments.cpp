#include "file/ornaments.h"

#include "base/text.h"
#include "file/data_folder.h"
#include "release/paths/path_data.h"

#include <QFile>
#include <QXmlStreamReader>
#include <algorithm>

namespace glyptos {

Result<Ornament> readOrnament(const std::filesystem::path& file) {
    const std::string name = nameOf(file);
    QFile svg(QString::fromStdString(file.string()));
    if (!svg.open(QIODevice::ReadOnly)) return fail(Fault::Unreadable, name + " cannot be opened.");
    Ornament out;
    out.id = stemOf(file);
    std::string path;
    QXmlStreamReader xml(&svg);
    while (!xml.atEnd()) {
        if (xml.readNext() != QXmlStreamReader::StartElement) continue;
        if (xml.name() == QLatin1String("title")) out.name = xml.readElementText().toStdString();
        if (xml.name() == QLatin1String("path"))
            path = xml.attributes().value(QLatin1String("d")).toString().toStdString();
    }
    auto contours = contoursFromPathData(path);
    if (xml.hasError() || !contours || contours->empty() || out.name.empty())
        return fail(Fault::Damaged, name + " is not an ornament: it needs a title and one path.");
    out.shape.kind = ShapeKind::Free;
    out.shape.contours = std::move(*contours);
    Vec2 middle;
    out.shape = reframed(std::move(out.shape), middle);
    return out;
}

const std::vector<Ornament>& shippedOrnaments() {
    static const std::vector<Ornament> all = [] {
        std::vector<Ornament> out;
        std::error_code none;
        for (const auto& entry : std::filesystem::directory_iterator(dataFolder() / "ornaments", none))
            if (auto ornament = readOrnament(entry.path())) out.push_back(std::move(*ornament));
        std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.name < b.name; });
        return out;
    }();
    return all;
}

} // namespace glyptos
