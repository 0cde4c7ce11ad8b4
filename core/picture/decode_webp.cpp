#include <webp/decode.h>
#include <webp/demux.h>

#include <memory>

#include "core/picture/decode.h"

namespace punch::decode {

Result<Decoded> webp(std::string_view bytes, const std::string& name) {
    const WebPData data{reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size()};
    WebPBitstreamFeatures features;
    if (WebPGetFeatures(data.bytes, data.size, &features) != VP8_STATUS_OK)
        return broken(name, "its header is damaged");
    auto room = roomFor(features.width, features.height, 3, name);
    if (!room) return tl::make_unexpected(room.error());
    Decoded out;
    out.picture = std::move(*room);

    struct Delete {
        void operator()(WebPDemuxer* d) const { WebPDemuxDelete(d); }
    };
    const std::unique_ptr<WebPDemuxer, Delete> demux(WebPDemux(&data));
    if (!demux) return broken(name, "the file ends too early");
    WebPIterator frame;
    if (WebPDemuxGetFrame(demux.get(), 1, &frame) == 0) return broken(name, "no picture in it");
    const bool whole = frame.width == features.width && frame.height == features.height;
    std::vector<std::uint8_t> rgba;
    if (whole) {
        rgba.resize(std::size_t{4} * static_cast<std::size_t>(frame.width) * frame.height);
        if (WebPDecodeRGBAInto(frame.fragment.bytes, frame.fragment.size, rgba.data(), rgba.size(), 4 * frame.width) ==
            nullptr)
            rgba.clear();
    }
    if (frame.num_frames > 1) out.picture.notes.emplace_back("animated: the first picture is taken");
    WebPDemuxReleaseIterator(&frame);
    if (!whole) return broken(name, "it is animated, and its first picture is not the whole one");
    if (rgba.empty()) return broken(name, "its pixels cannot be read to the end");
    const std::uint8_t* in = rgba.data();
    for (std::uint8_t& to : out.picture.data) {
        to = onWhite(in[0], in[3 - (&to - out.picture.data.data()) % 3]);
        in += (&to - out.picture.data.data()) % 3 == 2 ? 2 : 1;
    }
    WebPChunkIterator chunk;
    if (WebPDemuxGetChunk(demux.get(), "ICCP", 1, &chunk)) {
        readProfile({reinterpret_cast<const char*>(chunk.chunk.bytes), chunk.chunk.size}, out);
        WebPDemuxReleaseChunkIterator(&chunk);
    }
    if (WebPDemuxGetChunk(demux.get(), "EXIF", 1, &chunk)) {
        readExif({reinterpret_cast<const char*>(chunk.chunk.bytes), chunk.chunk.size}, out);
        WebPDemuxReleaseChunkIterator(&chunk);
    }
    return out;
}

}  // namespace punch::decode
