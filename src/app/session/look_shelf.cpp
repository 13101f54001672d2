#include "app/session/look_shelf.h"

#include "app/session/background.h"
#include "render/treated_picture.h"

namespace glyptos {

LookShelf::LookShelf(const FontLibrary& fonts, QObject* parent)
    : QObject(parent)
    , fonts_(fonts) {}

void LookShelf::read() {
    if (!std::exchange(isRead_, true)) readAgain();
}

void LookShelf::readAgain() {
    struct Read {
        std::vector<NamedLook> looks;
        std::vector<std::string> troubles;
    };
    inBackground([&fonts = fonts_]() -> Result<Read> {
        Read out{shippedLooks(), {}};
        for (NamedLook& own : ownLooks(out.troubles)) out.looks.push_back(std::move(own));
        for (NamedLook& look : out.looks)
            look.treatments = asOne(std::move(look.treatments), look.name, fonts);
        return out;
    }).then(this, [this](const Result<Read>& read) {
        if (!read) return Q_EMIT told(QString::fromStdString(read.error().message));
        looks_ = read->looks;
        for (const std::string& trouble : read->troubles) Q_EMIT told(QString::fromStdString(trouble));
        Q_EMIT changed();
    });
}

void LookShelf::keep(NamedLook look) {
    inBackground([look = std::move(look)] {
        return saveLook(look);
    }).then(this, [this](const Result<NamedLook>& saved) {
        if (!saved) return Q_EMIT told(QString::fromStdString(saved.error().message));
        readAgain();
    });
}

void LookShelf::remove(const NamedLook& look) {
    inBackground([look] { return removeLook(look); }).then(this, [this](const Result<void>& done) {
        if (!done) return Q_EMIT told(QString::fromStdString(done.error().message));
        readAgain();
    });
}

} // namespace glyptos
