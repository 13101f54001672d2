#include "release/package/package.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace glyptos {
namespace {

enum class Role : unsigned char {
    None,
    Booklet,
    TrayCard,
    Liner,
    Disc,
    Card,
    Shell,
    CassetteSleeve,
    DiscSleeve,
    Wallet,
    RecordSleeve,
    Inner,
    Label,
    Strip
};

Role roleOf(const Piece& piece) {
    constexpr std::array kRoles{std::pair{"disc-booklet", Role::Booklet},
                                std::pair{"tray-card", Role::TrayCard},
                                std::pair{"tray-liner", Role::Liner},
                                std::pair{"disc-face", Role::Disc},
                                std::pair{"cassette-card", Role::Card},
                                std::pair{"shell-label", Role::Shell},
                                std::pair{"cassette-sleeve", Role::CassetteSleeve},
                                std::pair{"card-wallet", Role::DiscSleeve},
                                std::pair{"wallet-4", Role::Wallet},
                                std::pair{"wallet-6", Role::Wallet},
                                std::pair{"sleeve-12", Role::RecordSleeve},
                                std::pair{"gatefold-12", Role::RecordSleeve},
                                std::pair{"sleeve-10", Role::RecordSleeve},
                                std::pair{"sleeve-7", Role::RecordSleeve},
                                std::pair{"sleeve-7-spine", Role::RecordSleeve},
                                std::pair{"inner-sleeve", Role::Inner},
                                std::pair{"label-12", Role::Label},
                                std::pair{"label-7", Role::Label},
                                std::pair{"obi", Role::Strip}};
    const auto* found = std::find_if(kRoles.begin(), kRoles.end(),
                                     [&](const auto& role) { return piece.form->id == role.first; });
    return found == kRoles.end() ? Role::None : found->second;
}

/// The first piece of a role, `preferred` before all others.
class Choosing {
  public:
    Choosing(const Release& release, PiecePtr preferred)
        : release_(release)
        , preferred_(std::move(preferred)) {}

    template <class Fits>
    PiecePtr first(Role role, Fits fits) const {
        const auto good = [&](const PiecePtr& p) { return roleOf(*p) == role && fits(*p); };
        if (good(preferred_)) return preferred_;
        const auto found = std::find_if(release_.pieces.begin(), release_.pieces.end(), good);
        return found == release_.pieces.end() ? nullptr : *found;
    }
    PiecePtr first(Role role) const {
        return first(role, [](const Piece&) { return true; });
    }

  private:
    const Release& release_;
    PiecePtr preferred_;
};

double high(const Piece& piece) {
    return piece.flat->frontPanel().height;
}

Package jewelCase(const Choosing& choose) {
    Package out{PackKind::JewelCase};
    out.booklet = choose.first(Role::Booklet), out.trayCard = choose.first(Role::TrayCard);
    out.liner = choose.first(Role::Liner), out.disc = choose.first(Role::Disc);
    return out;
}

Package cassetteCase(const Choosing& choose) {
    Package out{PackKind::CassetteCase};
    out.card = choose.first(Role::Card), out.shell = choose.first(Role::Shell);
    return out;
}

Package cassetteSleeve(const Choosing& choose) {
    Package out{PackKind::CassetteSleeve};
    out.sleeve = choose.first(Role::CassetteSleeve), out.shell = choose.first(Role::Shell);
    return out;
}

Package ofDisc(const Choosing& choose, PackKind kind, Role role) {
    Package out{kind};
    out.sleeve = choose.first(role), out.disc = choose.first(Role::Disc);
    return out;
}

/// What goes with a sleeve is as large as it; without a sleeve the preferred piece says.
Package ofRecord(const Choosing& choose, const Piece& preferred) {
    Package out{PackKind::Sleeve};
    constexpr double kRoom = 20; // mm, most that a sleeve is larger than what is in it
    const Role role = roleOf(preferred);
    const bool sized = role == Role::Inner || role == Role::Strip;
    out.sleeve = choose.first(Role::RecordSleeve, [&](const Piece& p) {
        if (sized) return std::abs(high(p) - high(preferred)) < kRoom;
        return role != Role::Label || (high(p) > 200) == (preferred.form->id == "label-12");
    });
    const double size = out.sleeve ? high(*out.sleeve) : sized ? high(preferred) : 0;
    const auto asHigh = [&](const Piece& p) { return size == 0 || std::abs(high(p) - size) < kRoom; };
    out.inner = choose.first(Role::Inner, asHigh);
    const bool large = size == 0 ? preferred.form->id == "label-12" : size > 200;
    out.label =
        choose.first(Role::Label, [&](const Piece& p) { return (p.form->id == "label-12") == large; });
    if (out.sleeve) out.strip = choose.first(Role::Strip, asHigh);
    return out;
}

} // namespace

std::optional<Package> packageOf(const Release& release, const std::string& id) {
    const PiecePtr piece = release.piece(id);
    if (!piece || piece->form->own) return std::nullopt;
    const Choosing choose(release, piece);
    switch (roleOf(*piece)) {
    case Role::Booklet:
    case Role::TrayCard:
    case Role::Liner:
        return jewelCase(choose);
    case Role::Disc: {
        // In what the release has for it.
        if (choose.first(Role::TrayCard) || choose.first(Role::Booklet)) return jewelCase(choose);
        if (choose.first(Role::Wallet)) return ofDisc(choose, PackKind::Wallet, Role::Wallet);
        if (choose.first(Role::DiscSleeve)) return ofDisc(choose, PackKind::Sleeve, Role::DiscSleeve);
        return jewelCase(choose);
    }
    case Role::Card:
        return cassetteCase(choose);
    case Role::Shell:
        // In what the release has for it.
        return !choose.first(Role::Card) && choose.first(Role::CassetteSleeve) ? cassetteSleeve(choose)
                                                                               : cassetteCase(choose);
    case Role::CassetteSleeve:
        return cassetteSleeve(choose);
    case Role::DiscSleeve:
        return ofDisc(choose, PackKind::Sleeve, Role::DiscSleeve);
    case Role::Wallet:
        return ofDisc(choose, PackKind::Wallet, Role::Wallet);
    case Role::RecordSleeve:
    case Role::Inner:
    case Role::Label:
    case Role::Strip:
        return ofRecord(choose, *piece);
    case Role::None:
        break;
    }
    return std::nullopt;
}

} // namespace glyptos
