// Internal to file and crate: JSON read with the place of whatever is wrong.
#pragma once

#include "base/error.h"
#include "color/color.h"

#include <array>
#include <cmath>
#include <nlohmann/json.hpp>
#include <string>

namespace glyptos {

using Json = nlohmann::ordered_json;

/// Thrown while a release is read, and caught there: what is wrong, and where.
struct Wrong {
    Fault fault;
    std::string what;
};

/// An object and where it stands, for messages.
class Entry {
  public:
    Entry(const Json& json, std::string path)
        : json_(json)
        , path_(std::move(path)) {
        if (!json.is_object()) throw Wrong{Fault::Damaged, path_ + " should be an object"};
    }
    const Json& at(const char* key) const {
        if (!json_.contains(key)) throw Wrong{Fault::Damaged, path_ + "." + key + " is missing"};
        return json_[key];
    }
    std::string path(const char* key) const { return path_ + "." + key; }
    std::string text(const char* key) const {
        if (!at(key).is_string()) throw Wrong{Fault::Damaged, path(key) + " should be text"};
        return at(key).get<std::string>();
    }
    double number(const char* key) const {
        if (!at(key).is_number() || !std::isfinite(at(key).get<double>()))
            throw Wrong{Fault::Damaged, path(key) + " should be a number"};
        return at(key).get<double>();
    }
    int whole(const char* key, int least, int most) const {
        const double v = number(key);
        if (v != std::floor(v) || v < least || v > most)
            throw Wrong{Fault::Damaged, path(key) + " is out of range"};
        return static_cast<int>(v);
    }
    bool flag(const char* key) const {
        if (!at(key).is_boolean()) throw Wrong{Fault::Damaged, path(key) + " should be true or false"};
        return at(key).get<bool>();
    }
    Rgba colour(const char* key) const {
        const auto value = rgbaFromHex(text(key));
        if (!value) throw Wrong{Fault::Damaged, path(key) + " is not a colour"};
        return *value;
    }
    bool has(const char* key) const { return json_.contains(key); }
    bool flagOr(const char* key, bool otherwise) const { return has(key) ? flag(key) : otherwise; }
    double numberOr(const char* key, double otherwise) const { return has(key) ? number(key) : otherwise; }
    double between(const char* key, double least, double most) const {
        const double v = number(key);
        if (v < least || v > most) throw Wrong{Fault::Damaged, path(key) + " is out of range"};
        return v;
    }
    double positive(const char* key) const {
        const double v = number(key);
        if (!(v > 0)) throw Wrong{Fault::Damaged, path(key) + " should be positive"};
        return v;
    }
    /// The place of the text in a list of names.
    template <class Enum, size_t N>
    Enum oneOf(const char* key, const char* const (&names)[N]) const {
        const std::string name = text(key);
        for (size_t i = 0; i < N; ++i)
            if (name == names[i]) return static_cast<Enum>(i);
        std::string all;
        for (size_t i = 0; i < N; ++i)
            all += std::string(i == 0 ? "" : i + 1 == N ? " or " : ", ") + names[i];
        throw Wrong{Fault::Damaged, path(key) + " should be " + all};
    }
    /// Exactly N numbers.
    template <size_t N>
    std::array<double, N> numbers(const char* key) const {
        std::array<double, N> out{};
        size_t n = 0;
        each(key, [&](const Json& item, const std::string& at) {
            if (!item.is_number() || !std::isfinite(item.get<double>()) || n >= N)
                throw Wrong{Fault::Damaged, at + " should be one of " + std::to_string(N) + " numbers"};
            out[n++] = item.get<double>();
        });
        if (n != N) throw Wrong{Fault::Damaged, path(key) + " should be " + std::to_string(N) + " numbers"};
        return out;
    }
    Entry inside(const char* key) const { return {at(key), path(key)}; }
    template <class Read>
    void each(const char* key, Read read) const {
        if (!at(key).is_array()) throw Wrong{Fault::Damaged, path(key) + " should be a list"};
        size_t i = 0;
        for (const Json& item : at(key)) read(item, path(key) + "[" + std::to_string(i++) + "]");
    }
    template <class Read>
    void members(const char* key, Read read) const {
        if (!at(key).is_object()) throw Wrong{Fault::Damaged, path(key) + " should be an object"};
        for (const auto& [name, item] : at(key).items()) read(name, item, path(key) + "." + name);
    }

  private:
    const Json& json_;
    std::string path_;
};

} // namespace glyptos
