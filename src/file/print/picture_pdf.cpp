#include "file/print/picture_pdf.h"

#include "base/text.h"

#include <cstdio>
#include <string>

namespace glyptos {

std::vector<uint8_t> pictureAsPdf(const EncodedPicture& jpeg, Ppi resolution) {
    const std::string width = shortNumber(jpeg.width * 72.0 / resolution.value, 3),
                      height = shortNumber(jpeg.height * 72.0 / resolution.value, 3);
    const std::string drawing = "q " + width + " 0 0 " + height + " 0 0 cm /P Do Q";
    std::string out = "%PDF-1.4\n%\xe2\xe3\xcf\xd3\n";
    std::vector<size_t> starts;
    const auto object = [&](const std::string& body) {
        starts.push_back(out.size());
        out += std::to_string(starts.size()) + " 0 obj\n" + body + "\nendobj\n";
    };
    const auto stream = [](const std::string& entries, const std::string& bytes) {
        return "<< " + entries + "/Length " + std::to_string(bytes.size()) + " >>\nstream\n" + bytes +
               "\nendstream";
    };
    object("<< /Type /Catalog /Pages 2 0 R >>");
    object("<< /Type /Pages /Kids [3 0 R] /Count 1 >>");
    object("<< /Type /Page /Parent 2 0 R /MediaBox [0 0 " + width + " " + height +
           "] /Contents 4 0 R /Resources << /XObject << /P 5 0 R >> >> >>");
    object(stream("", drawing));
    object(stream("/Type /XObject /Subtype /Image /Width " + std::to_string(jpeg.width) + " /Height " +
                      std::to_string(jpeg.height) +
                      " /ColorSpace /DeviceRGB /BitsPerComponent 8 /Filter /DCTDecode ",
                  std::string(jpeg.bytes.begin(), jpeg.bytes.end())));
    const size_t table = out.size();
    out += "xref\n0 " + std::to_string(starts.size() + 1) + "\n0000000000 65535 f \n";
    for (const size_t start : starts) {
        char line[24];
        std::snprintf(line, sizeof line, "%010zu 00000 n \n", start);
        out += line;
    }
    out += "trailer\n<< /Size " + std::to_string(starts.size() + 1) + " /Root 1 0 R >>\nstartxref\n" +
           std::to_string(table) + "\n%%EOF\n";
    return {out.begin(), out.end()};
}

} // namespace glyptos
