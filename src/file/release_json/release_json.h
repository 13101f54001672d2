// The release as JSON text (docs/file-format.md), without the bytes of its pictures.
#pragma once

#include "base/error.h"
#include "release/release.h"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

inline constexpr int kReleaseFormatVersion = 13;

/// Deterministic: the same release gives the same bytes, and reading and writing them again gives them back.
std::string releaseToJson(const Release& release);

/// Where painted tiles come from: those of a name and a format, or what is wrong, as a part of a sentence.
using TileSource = std::function<Result<PixelTilePtr>(const std::string& name, const PixelFormat& format)>;
/// The name of a tile: its hash in hexadecimal.
std::string tileName(const PixelHash& hash);
/// For releases in which nothing is painted.
Result<PixelTilePtr> noTiles(const std::string& name, const PixelFormat& format);

/// Where look tables come from, by the name that a treatment has for them.
using LookSource = std::function<Result<LookTablePtr>(const std::string& name)>;
/// For what holds no tables.
Result<LookTablePtr> noLooks(const std::string& name);

/// Sources come back without bytes. Fails with what is wrong and where; `forms` are those at hand.
Result<Release> releaseFromJson(std::string_view json, const std::vector<std::shared_ptr<const Form>>& forms,
                                const TileSource& tiles = noTiles, const LookSource& looks = noLooks);

/// A brief alone, as `glyptos-cli new --brief` takes it: the entry "brief" of a release file.
Result<Brief> briefFromJson(std::string_view json);

} // namespace glyptos
