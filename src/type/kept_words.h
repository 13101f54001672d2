// Words as they were set while their faces were at hand, to be drawn where those are not.
#pragma once

#include "type/paragraph.h"

#include <memory>
#include <utility>
#include <vector>

namespace glyptos {

/// A face by family and style.
using FaceName = std::pair<std::string, std::string>;

struct KeptWords {
    TextSpec spec;               ///< fields filled
    std::vector<FaceName> faces; ///< what they were set in, see facesFor()
    std::shared_ptr<const Paragraph> set;
};
using KeptWordsList = std::shared_ptr<const std::vector<KeptWords>>; ///< or nothing

/// The faces that a text asks for, each once; and those it gets for each, which may be others.
std::vector<FaceName> facesAskedFor(const TextSpec& spec);
std::vector<FaceName> facesFor(const TextSpec& spec, const FontLibrary& fonts);

/// What was kept of exactly these words; nothing when there is none.
const KeptWords* findKept(const KeptWordsList& list, const TextSpec& spec);

} // namespace glyptos
