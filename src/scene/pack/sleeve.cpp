#include "scene/pack/packages.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kLoose = 0.1; // mm between what lies in each other

bool isGatefold(const Flat& flat) {
    return flat.panel("inner-left") != nullptr;
}

/// How thick what lies in a sleeve may be drawn, so that its folds close: a record with its inner sleeve,
/// but in a gatefold what the spine leaves for one half.
double fillingOf(const Piece& sleeve, double wanted) {
    if (!isGatefold(*sleeve.flat)) return wanted;
    const Flat& flat = *sleeve.flat;
    const double room = (flat.panel("spine")->onFlat.w - 4 * flat.thickness) / 2 - kLoose;
    return std::clamp(room, 0.2, wanted);
}

class Sleeve {
  public:
    Sleeve(const Package& package, const PieceDrawing& drawing)
        : package_(package)
        , drawing_(drawing) {
        if (package.disc || isOfDisc()) thick_ = kDiscThick;
    }

    Assembly made() {
        addSleeve();
        addStrip();
        addInner();
        addRound();
        return std::move(out_);
    }

  private:
    bool isOfDisc() const { return package_.sleeve && package_.sleeve->form->id == "card-wallet"; }
    double size() const {
        const PiecePtr& outside = package_.sleeve ? package_.sleeve : package_.inner;
        if (outside) return outside->flat->frontPanel().width;
        return package_.label && package_.label->form->id == "label-7" ? 184 : 315;
    }
    double diameter() const { return isOfDisc() ? kDisc : size() > 290 ? 301.5 : size() > 230 ? 250 : 175; }
    size_t step(const std::string& name) {
        out_.steps.push_back(name);
        return out_.steps.size() - 1;
    }

    void addSleeve() {
        pocket_ = {0, -thick_ - 1};
        if (!package_.sleeve) return;
        constexpr double kInner = 0.6; // mm of paper round the record
        const auto piece = drawing_.folded(package_.sleeve, fillingOf(*package_.sleeve, thick_ + kInner));
        Part part{"Sleeve"};
        part.rest = facingFront(*piece->flat, {});
        part.piece = piece;
        out_.parts.push_back(std::move(part));
        pocket_ = pocketOf(*piece);
    }

    /// Round the left of the sleeve; it comes off that way.
    void addStrip() {
        const auto piece = drawing_.folded(package_.strip);
        if (!piece) return;
        const Panel& front = piece->flat->frontPanel();
        const double left = -size() / 2, over = piece->flat->thickness + kLoose;
        Part part{"Strip"};
        part.carrier = 0;
        part.rest = facingFront(*piece->flat, {left + front.width / 2 - over, 0, over});
        part.motions.push_back(slid(step("the strip comes off"), {-front.width - 25, 0, 0}));
        part.piece = piece;
        out_.parts.push_back(std::move(part));
    }

    void addInner() {
        if (!package_.inner) return;
        const double t = package_.inner->flat->thickness;
        const double room = package_.sleeve ? pocket_.gap() - 2 * t - 2 * kLoose : thick_ + 2 * kLoose;
        const double filling = std::clamp(room, 0.1, thick_ + 2 * kLoose);
        const auto piece = drawing_.folded(package_.inner, filling);
        const Pocket own = pocketOf(*piece);
        Part part{"Inner sleeve"};
        const double front = pocket_.middle() - own.middle(); // z of its printed side
        const double slack = std::max(0.0, (size() - piece->flat->frontPanel().width) / 2 - 1.5);
        part.rest = facingFront(*piece->flat, {package_.sleeve ? slack : 0, 0, front});
        part.piece = piece;
        if (package_.sleeve)
            part.motions.push_back(slid(step("the inner sleeve slides out"), {size() * 0.62, 0, 0}));
        inner_ = out_.parts.size();
        out_.parts.push_back(std::move(part));
        pocket_ = {front + own.top, front + own.bottom};
    }

    void addRound() {
        Part part = isOfDisc() ? opticalDiscPart(out_, package_, drawing_) : record();
        const bool packed = package_.sleeve || package_.inner;
        part.rest.origin = {0, 0, packed ? pocket_.middle() + drawn() / 2 : 0};
        part.carrier = inner_;
        if (packed)
            part.motions.push_back(slid(step(isOfDisc() ? "the disc slides out" : "the record slides out"),
                                        {diameter() * 0.62, 0, 0}));
        out_.parts.push_back(std::move(part));
    }

    /// How thick it is drawn.
    double drawn() const {
        return package_.sleeve || package_.inner ? std::min(thick_, std::max(0.05, pocket_.gap() - kLoose))
                                                 : thick_;
    }

    Part record() {
        constexpr double kStuck = 0.02;
        Part out{"Record"};
        const double d = diameter(), t = drawn();
        for (const bool front : {true, false}) {
            const std::string side = front ? "side-a" : "side-b";
            const Panel* panel = package_.label ? package_.label->flat->panel(side) : nullptr;
            const double label = panel ? panel->width : 100;
            const double hole = panel && !panel->cutouts.empty() ? panel->cutouts.front().box.w : 7.3;
            const double way = front ? 1 : -1, z = front ? 0 : -t;
            out.body.push_back(pictured({0, 0, z}, {way * d, 0, 0}, {0, d, 0},
                                        kept(out_, vinyl(d, label, hole, ends(front ? "A" : "B")))));
            const SurfacePicture* stuck = kept(out_, drawing_.label(package_.label, side));
            if (panel && stuck)
                out.body.push_back(pictured({0, 0, z + way * kStuck}, {way * panel->width, 0, 0},
                                            {0, panel->height, 0}, stuck));
        }
        addRim(out.body, d, 0, -t, {0.09F, 0.09F, 0.09F});
        return out;
    }

    std::vector<double> ends(const std::string& side) const {
        std::vector<int> seconds;
        for (const Track& track : drawing_.release->brief.tracks)
            if (track.side == side) seconds.push_back(std::max(1, track.seconds));
        return trackEnds(seconds);
    }

    const Package& package_;
    const PieceDrawing& drawing_;
    double thick_ = kRecordThick;
    Pocket pocket_;
    std::optional<size_t> inner_;
    Assembly out_;
};

} // namespace

Assembly sleeve(const Package& package, const PieceDrawing& drawing) {
    return Sleeve(package, drawing).made();
}

} // namespace glyptos
