// Internal to color: profiles as Little CMS holds them.
#pragma once

#include <cstdint>
#include <lcms2.h>
#include <memory>
#include <span>

namespace glyptos {

struct CloseProfile {
    void operator()(void* p) const { cmsCloseProfile(p); }
};
using ProfilePtr = std::unique_ptr<void, CloseProfile>;

/// Nothing when the bytes are none, or more than any profile has.
inline ProfilePtr openProfile(std::span<const uint8_t> bytes) {
    if (bytes.empty() || bytes.size() > size_t(64) << 20) return nullptr;
    return ProfilePtr(cmsOpenProfileFromMem(bytes.data(), static_cast<cmsUInt32Number>(bytes.size())));
}

} // namespace glyptos
