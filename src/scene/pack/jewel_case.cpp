#include "scene/pack/packages.h"

namespace glyptos {
namespace {

constexpr double kWall = 2, kRoom = 3.5, kLidDeep = 3.9, kPlate = 1.2; // mm
constexpr double kOpen = -150;                                         // degrees of the lid
constexpr Rgb kTrayClear{0.90F, 0.94F, 0.95F}, kTrayGrey{0.15F, 0.15F, 0.16F};

class JewelCase {
  public:
    JewelCase(const Package& package, const PieceDrawing& drawing)
        : package_(package)
        , drawing_(drawing) {
        if (package.trayCard) {
            const Flat& flat = *package.trayCard->flat;
            const Panel& back = flat.frontPanel();
            wide_ = back.width, high_ = back.height;
            deep_ = flat.values.contains("spine") ? flat.values.at("spine") : deep_;
        }
    }

    Assembly made() {
        addCase();
        addTray();
        addDisc();
        addLid();
        addBooklet();
        return std::move(out_);
    }

  private:
    double outerWide() const { return wide_ + 2 * kWall; }
    double outerHigh() const { return high_ + 2 * kRoom; }
    double thick() const { return deep_ + kLidDeep; }
    double bottom() const { return -thick() / 2; }
    size_t step(const std::string& name) {
        out_.steps.push_back(name);
        return out_.steps.size() - 1;
    }

    /// The lower half with the card under its plate and in its sides.
    void addCase() {
        Part base{"Case"};
        addClearBox(base.body, {{-outerWide() / 2, -outerHigh() / 2, bottom()},
                                {outerWide() / 2, outerHigh() / 2, bottom() + deep_},
                                {false, false, false, false, false, true}});
        out_.parts.push_back(std::move(base));
        if (const auto piece = drawing_.folded(package_.trayCard)) {
            // Printed side down; the spines stand up at both sides.
            Part card{"Tray card"};
            card.carrier = 0;
            Pose over = turnedAbout({}, {0, 1, 0}, 180);
            over.origin = {0, 0, bottom() + kPlate};
            card.rest = over * facingFront(*piece->flat, {});
            card.piece = piece;
            out_.parts.push_back(std::move(card));
        }
    }

    double trayTop() const { return bottom() + deep_ - 1.5; }

    void addTray() {
        const bool seeThrough = package_.liner != nullptr;
        if (const auto piece = drawing_.folded(package_.liner)) {
            Part liner{"Tray liner"};
            liner.carrier = 0;
            liner.rest = facingFront(*piece->flat, {0, 0, bottom() + kPlate + 0.8});
            liner.piece = piece;
            out_.parts.push_back(std::move(liner));
        }
        Part tray{"Tray"};
        tray.carrier = 0;
        const double w = outerWide() - 2 * kPlate, h = outerHigh() - 2 * kPlate;
        addPane(tray.body, {{0, 0, trayTop() - kDiscThick - 0.6},
                            {w, 0, 0},
                            {0, h, 0},
                            seeThrough ? kTrayClear : kTrayGrey,
                            seeThrough ? 0.12F : 1.0F});
        addRim(tray.body, 11, trayTop() + 0.8, trayTop() - 2, seeThrough ? kTrayClear : kTrayGrey);
        out_.parts.push_back(std::move(tray));
    }

    void addDisc() {
        Part disc = opticalDiscPart(out_, package_, drawing_);
        disc.carrier = 0;
        disc.rest.origin = {0, 0, trayTop()};
        out_.parts.push_back(std::move(disc));
        disc_ = out_.parts.size() - 1;
    }

    /// It turns about the left edge, as the page of a book does.
    void addLid() {
        Part lid{"Lid"};
        addClearBox(lid.body, {{-outerWide() / 2, -outerHigh() / 2, bottom() + deep_},
                               {outerWide() / 2, outerHigh() / 2, thick() / 2},
                               {false, false, false, false, true, false}});
        lid.motions.push_back(
            {step("the lid opens"), {-outerWide() / 2, 0, bottom() + deep_}, {0, 1, 0}, kOpen});
        out_.parts.push_back(std::move(lid));
        if (!package_.booklet) takeDiscOut();
    }

    void addBooklet() {
        const auto piece = drawing_.folded(package_.booklet);
        if (!piece) return;
        const size_t lid = out_.parts.size() - 1;
        const double pages = piece->flat->frontPanel().width;
        // It lies at the open side of the lid, beside its hinges.
        const double aside = std::max(0.0, (outerWide() - pages) / 2 - kWall);
        Part booklet{"Booklet"};
        booklet.carrier = lid;
        booklet.rest = facingFront(*piece->flat, {aside, 0, thick() / 2 - kPlate});
        const double clear = (outerWide() + pages) / 2 - aside + 12;
        const size_t slides = step("the booklet slides out of the lid");
        booklet.motions.push_back(slid(slides, {clear, 0, 0}, 0, 0.6));
        // Clear of the lid its front turns to the viewer.
        booklet.motions.push_back({slides, {aside + clear, 0, thick() / 2}, {0, 1, 0}, -kOpen, {}, 0.6, 1});
        if (piece->folding->steps() > 1)
            piece->step = step("the booklet opens"), piece->madeUp = 1, piece->open = 0.5;
        booklet.piece = piece;
        out_.parts.push_back(std::move(booklet));
        takeDiscOut();
    }

    void takeDiscOut() {
        const size_t lifts = step("the disc comes out");
        Part& disc = out_.parts[disc_];
        disc.motions.push_back(slid(lifts, {0, 0, 18}, 0, 0.4));
        disc.motions.push_back(slid(lifts, {outerWide() * 0.92, 0, 0}, 0.3, 1));
    }

    const Package& package_;
    const PieceDrawing& drawing_;
    double wide_ = 138, high_ = 118, deep_ = 6.5;
    size_t disc_ = 0;
    Assembly out_;
};

} // namespace

Assembly jewelCase(const Package& package, const PieceDrawing& drawing) {
    return JewelCase(package, drawing).made();
}

} // namespace glyptos
