// Pictures for the stock drawer: what an agency on this coast would have.
#pragma once

#include "canvas.h"

#include "release/source_facts.h"

#include <functional>

namespace glyptos::demo {

struct StockPicture {
    std::string file; ///< name, with its ending
    SourceFacts facts;
    std::function<std::vector<uint8_t>()> make;
};

std::vector<StockPicture> stockPhotos();
std::vector<StockPicture> stockTextures();
std::vector<StockPicture> stockElements();

struct Subject {
    SourceKind kind;
    std::string title;
    std::vector<std::string> tags;
};

/// Facts with a file name made from the title; makers and licences come round by `number`.
StockPicture stockPicture(const Subject& subject, int number, const char* ending,
                          std::function<std::vector<uint8_t>()> make);

} // namespace glyptos::demo
