#include "treat/look_table.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <xxhash.h>

namespace glyptos {
namespace {

tl::unexpected<Error> wrongLine(int line, const std::string& what) {
    return fail(Fault::Damaged, "line " + std::to_string(line) + " " + what);
}

std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r");
    if (first == text.npos) return {};
    return text.substr(first, text.find_last_not_of(" \t\r") - first + 1);
}

/// Three numbers and nothing more.
bool readThree(std::string_view text, std::array<float, 3>& out) {
    for (float& v : out) {
        text = trimmed(text);
        if (!text.empty() && text.front() == '+') text.remove_prefix(1);
        const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), v);
        if (fault != std::errc() || !std::isfinite(v)) return false;
        text.remove_prefix(size_t(end - text.data()));
        if (!text.empty() && text.front() != ' ' && text.front() != '\t') return false;
    }
    return trimmed(text).empty();
}

class CubeReader {
  public:
    Result<LookTable> read(std::string_view text) {
        while (!text.empty()) {
            const auto end = text.find('\n');
            const std::string_view line = trimmed(text.substr(0, end));
            text.remove_prefix(end == text.npos ? text.size() : end + 1);
            ++line_;
            if (line.empty() || line.front() == '#') continue;
            if (auto fine = one(line); !fine) return tl::unexpected(fine.error());
        }
        return finished();
    }

  private:
    Result<void> one(std::string_view line) {
        const auto blank = line.find_first_of(" \t");
        const std::string_view word = line.substr(0, blank),
                               rest = blank == line.npos ? "" : trimmed(line.substr(blank));
        const bool isWord = (word.front() >= 'A' && word.front() <= 'Z') || word.front() == '_';
        if (!isWord) return entry(line);
        if (word == "TITLE") {
            const bool quoted = rest.size() > 1 && rest.front() == '"' && rest.back() == '"';
            table_.title = std::string(quoted ? rest.substr(1, rest.size() - 2) : rest);
            return {};
        }
        if (word == "LUT_1D_SIZE") return size(rest, 1, kLongestTable);
        if (word == "LUT_3D_SIZE") return size(rest, 3, kLargestCube);
        if (word == "DOMAIN_MIN") return domain(rest, table_.least);
        if (word == "DOMAIN_MAX") return domain(rest, table_.most);
        return {}; // words of others, which say nothing about colours
    }

    Result<void> size(std::string_view text, int dimensions, int most) {
        if (wanted_ > 0) return wrongLine(line_, "gives a size a second time");
        int n = 0;
        const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), n);
        if (fault != std::errc() || end != text.data() + text.size() || n < 2)
            return wrongLine(line_, "gives no size");
        if (n > most)
            return fail(Fault::TooLarge,
                        "it has " + std::to_string(n) + " entries a side, more than " + std::to_string(most));
        table_.dimensions = dimensions, table_.size = n;
        wanted_ = dimensions == 1 ? size_t(n) : size_t(n) * size_t(n) * size_t(n);
        table_.entries.reserve(wanted_);
        return {};
    }

    Result<void> domain(std::string_view text, std::array<float, 3>& out) {
        if (!readThree(text, out)) return wrongLine(line_, "gives no three numbers for the domain");
        return {};
    }

    Result<void> entry(std::string_view line) {
        if (wanted_ == 0) return wrongLine(line_, "stands before the size of the table");
        if (table_.entries.size() == wanted_)
            return wrongLine(line_, "is an entry more than the " + std::to_string(wanted_) +
                                        " that the size of the table asks for");
        std::array<float, 3> rgb{};
        if (!readThree(line, rgb)) return wrongLine(line_, "is not three numbers");
        table_.entries.push_back(rgb);
        return {};
    }

    Result<LookTable> finished() {
        if (wanted_ == 0) return fail(Fault::Damaged, "it gives no size, so it is no table of colours");
        if (table_.entries.size() < wanted_)
            return fail(Fault::Damaged, "it ends after " + std::to_string(table_.entries.size()) +
                                            " of its " + std::to_string(wanted_) + " entries");
        for (size_t c = 0; c < 3; ++c)
            if (!(table_.most[c] > table_.least[c]))
                return fail(Fault::Damaged, "its domain ends where it begins or before");
        return std::move(table_);
    }

    LookTable table_;
    size_t wanted_ = 0;
    int line_ = 0;
};

} // namespace

LookTablePtr kept(LookTable table) {
    std::vector<float> all{float(table.dimensions), float(table.size)};
    all.insert(all.end(), table.least.begin(), table.least.end());
    all.insert(all.end(), table.most.begin(), table.most.end());
    for (const auto& entry : table.entries) all.insert(all.end(), entry.begin(), entry.end());
    const XXH128_hash_t hash = XXH3_128bits(all.data(), all.size() * sizeof(float));
    table.hash = {hash.low64, hash.high64};
    return std::make_shared<const LookTable>(std::move(table));
}

Result<LookTable> lookTableFromCube(std::string_view text) {
    if (text.starts_with("\xef\xbb\xbf")) text.remove_prefix(3);
    return CubeReader().read(text);
}

std::string cubeText(const LookTable& t) {
    std::string title = t.title, out;
    std::replace_if(
        title.begin(), title.end(), [](char c) { return c == '\n' || c == '\r' || c == '"'; }, ' ');
    if (!title.empty()) out += "TITLE \"" + title + "\"\n";
    out += (t.dimensions == 1 ? "LUT_1D_SIZE " : "LUT_3D_SIZE ") + std::to_string(t.size) + "\n";
    const auto three = [&](const char* word, const std::array<float, 3>& v) {
        char line[256];
        // Not by the locale, whose decimal point may be a comma; as short as gives the same number again.
        char* at = line;
        for (const float number : v) {
            if (at != line) *at++ = ' ';
            at = std::to_chars(at, line + sizeof line, number, std::chars_format::fixed).ptr;
        }
        out.append(word).append(line, at).push_back('\n');
    };
    if (t.least != std::array<float, 3>{0, 0, 0} || t.most != std::array<float, 3>{1, 1, 1}) {
        three("DOMAIN_MIN ", t.least);
        three("DOMAIN_MAX ", t.most);
    }
    for (const auto& entry : t.entries) three("", entry);
    return out;
}

std::array<float, 3> lookedUp(const LookTable& t, const std::array<float, 3>& rgb) {
    std::array<int, 3> below{};
    std::array<float, 3> share{}, out{};
    for (size_t c = 0; c < 3; ++c) {
        const float at = (std::clamp(rgb[c], t.least[c], t.most[c]) - t.least[c]) / (t.most[c] - t.least[c]) *
                         float(t.size - 1);
        below[c] = std::min(int(at), t.size - 2);
        share[c] = at - float(below[c]);
    }
    if (t.dimensions == 1) {
        for (size_t c = 0; c < 3; ++c) {
            const float a = t.entries[size_t(below[c])][c], b = t.entries[size_t(below[c]) + 1][c];
            out[c] = a + (b - a) * share[c];
        }
        return out;
    }
    std::array<size_t, 3> order{0, 1, 2};
    std::stable_sort(order.begin(), order.end(), [&](size_t a, size_t b) { return share[a] > share[b]; });
    std::array<int, 3> corner = below;
    const auto entry = [&] {
        return t.entries[(size_t(corner[2]) * size_t(t.size) + size_t(corner[1])) * size_t(t.size) +
                         size_t(corner[0])];
    };
    float before = 1;
    for (size_t k = 0; k <= 3; ++k) {
        const float next = k < 3 ? share[order[k]] : 0;
        for (size_t c = 0; c < 3; ++c) out[c] += entry()[c] * (before - next);
        if (k < 3) ++corner[order[k]];
        before = next;
    }
    return out;
}

} // namespace glyptos
