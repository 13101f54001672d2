#include "file/pictures/codecs.h"

#include <webp/decode.h>
#include <webp/demux.h>

namespace glyptos::codecs {

Result<PictureInfo> inspectWebp(Data bytes) {
    int width = 0, height = 0;
    if (!WebPGetInfo(bytes.data(), bytes.size(), &width, &height)) return cutShort();
    PictureInfo info{"webp", width, height};
    if (exifOrientation(bytes) >= 5) std::swap(info.width, info.height);
    return info;
}

Result<RawPicture> decodeWebp(Data bytes) {
    RawPicture out;
    WebPBitstreamFeatures features;
    if (WebPGetFeatures(bytes.data(), bytes.size(), &features) != VP8_STATUS_OK) return cutShort();
    if (features.has_animation) return fail(Fault::Unsupported, "is an animation, not a still picture");
    out.width = features.width;
    out.height = features.height;
    out.alpha = true;
    if (auto size = checkSize(out.width, out.height); !size) return tl::unexpected(size.error());
    out.allocate();
    if (!WebPDecodeRGBAInto(bytes.data(), bytes.size(), out.samples.data(), out.samples.size(),
                            static_cast<int>(out.rowBytes())))
        return cutShort();
    const WebPData data{bytes.data(), bytes.size()};
    if (WebPDemuxer* demuxer = WebPDemux(&data)) {
        WebPChunkIterator chunk;
        if (WebPDemuxGetChunk(demuxer, "ICCP", 1, &chunk)) {
            out.profile.assign(chunk.chunk.bytes, chunk.chunk.bytes + chunk.chunk.size);
            WebPDemuxReleaseChunkIterator(&chunk);
        }
        WebPDemuxDelete(demuxer);
    }
    out.orientation = exifOrientation(bytes);
    return out;
}

} // namespace glyptos::codecs
