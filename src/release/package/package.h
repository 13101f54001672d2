// Which pieces of a release are packed together.
#pragma once

#include "release/release.h"

#include <optional>

namespace glyptos {

enum class PackKind : unsigned char {
    JewelCase,      ///< booklet in the lid, tray card below, liner and disc on the tray
    CassetteCase,   ///< card round the cassette
    Sleeve,         ///< a record or disc in an inner sleeve or without, in its sleeve, a strip round it
    CassetteSleeve, ///< a cassette in a sleeve that is open at both ends
    Wallet          ///< a disc on the tray of a card wallet that folds
};

/// The pieces of one package; those that it has none of are nothing.
struct Package {
    PackKind kind = PackKind::JewelCase;
    PiecePtr booklet = {}, trayCard = {}, liner = {}, disc = {}; ///< of a jewel case; all may hold a disc
    PiecePtr card = {}, shell = {};                              ///< of a cassette; it may have a sleeve
    PiecePtr sleeve = {}, inner = {}, label = {}, strip = {};    ///< of a record; a wallet is its sleeve
};

/// The package that a piece belongs to, with the first piece of each kind that the release has, but that
/// piece before all others of its kind. Nothing for what is not packed: screens, forms of one's own.
std::optional<Package> packageOf(const Release& release, const std::string& piece);

} // namespace glyptos
