#include "scene/pack/assembled.h"

#include "scene/pack/packages.h"

namespace glyptos {

Assembly assembled(Renderer& renderer, const ReleasePtr& release, const Package& package, double pxPerMm,
                   const std::atomic<bool>* cancel) {
    const PieceDrawing drawing{renderer, release, pxPerMm, cancel};
    switch (package.kind) {
    case PackKind::JewelCase:
        return jewelCase(package, drawing);
    case PackKind::CassetteCase:
        return cassetteCase(package, drawing);
    case PackKind::Sleeve:
        return sleeve(package, drawing);
    case PackKind::CassetteSleeve:
        return cassetteSleeve(package, drawing);
    case PackKind::Wallet:
        return wallet(package, drawing);
    }
    return {};
}

double reachOf(const Package& package) {
    constexpr double kJewelCase = 420, kCassetteCase = 180, kRecord = 700;
    const auto wide = [](const PiecePtr& piece) { return piece ? piece->flat->trim().w : 0; };
    switch (package.kind) {
    case PackKind::JewelCase:
        return kJewelCase;
    case PackKind::CassetteCase:
    case PackKind::CassetteSleeve:
        return kCassetteCase;
    case PackKind::Sleeve:
        return package.sleeve ? 1.2 * wide(package.sleeve) : kRecord;
    case PackKind::Wallet:
        return std::max(200.0, 1.2 * wide(package.sleeve));
    }
    return kRecord;
}

} // namespace glyptos
