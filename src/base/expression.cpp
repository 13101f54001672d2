#include "base/expression.h"

#include "base/units.h"

#include <charconv>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kMaxDepth = 64;

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}
bool isNameStart(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || c == '"' || c == '%';
}
bool isNameChar(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || c == '-';
}

/// Recursive descent over: sum = product {(+|-) product}; product = factor {(*|/) factor}.
class Parser {
  public:
    Parser(std::string_view text, const NameValue& names)
        : text_(text)
        , names_(names) {}

    Result<double> whole() {
        auto value = sum();
        if (!value) return value;
        skipSpace();
        if (at_ != text_.size())
            return unknown("“" + std::string(text_.substr(at_)) + "” was not understood");
        if (!std::isfinite(*value)) return unknown("the sum has no finite result");
        return value;
    }

  private:
    Result<double> unknown(const std::string& why) const {
        return fail(Fault::Usage, "“" + std::string(text_) + "”: " + why + ".");
    }

    void skipSpace() {
        while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == '\t')) ++at_;
    }

    bool take(std::string_view token) {
        skipSpace();
        if (text_.substr(at_, token.size()) != token) return false;
        at_ += token.size();
        return true;
    }

    Result<double> sum() {
        auto left = product();
        while (left) {
            const bool plus = take("+");
            if (!plus && !take("-") && !take("−")) break;
            auto right = product();
            if (!right) return right;
            *left += plus ? *right : -*right;
        }
        return left;
    }

    /// A plain figure divided by one with a unit is a fraction with that unit: 1/8in is an eighth of an inch.
    Result<double> product() {
        auto left = factor();
        bool hasUnit = unit_.has_value();
        while (left) {
            const bool times = take("*") || take("×");
            if (!times && !take("/")) break;
            auto right = factor();
            if (!right) return right;
            if (!times && *right == 0) return unknown("it divides by zero");
            const double unit = hasUnit ? 1 : unit_.value_or(1);
            *left = times ? *left * *right : *left * unit * unit / *right;
            hasUnit = hasUnit || unit_;
        }
        unit_.reset();
        return left;
    }

    /// Leaves in unit_ what the unit directly behind its figure stands for, if it has one.
    Result<double> factor() {
        unit_.reset();
        if (++depth_ > kMaxDepth) return unknown("it is nested too deeply");
        auto value = signedFactor();
        --depth_;
        return value;
    }

    Result<double> signedFactor() {
        if (take("-") || take("−")) {
            auto value = factor();
            if (value) *value = -*value;
            return value;
        }
        if (take("(")) {
            auto value = sum();
            if (value && !take(")")) return unknown("a closing bracket is missing");
            return value;
        }
        skipSpace();
        if (at_ >= text_.size()) return unknown("something is missing at the end");
        if (isDigit(text_[at_]) || text_[at_] == '.' || text_[at_] == ',') return number();
        if (isNameStart(text_[at_])) return name();
        return unknown("“" + std::string(text_.substr(at_)) + "” was not understood");
    }

    Result<double> number() {
        std::string digits;
        while (at_ < text_.size() && (isDigit(text_[at_]) || text_[at_] == '.' || text_[at_] == ','))
            digits += text_[at_] == ',' ? '.' : text_[at_], ++at_;
        double value = 0;
        const auto [end, code] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (code != std::errc() || end != digits.data() + digits.size())
            return unknown("“" + digits + "” is not a number");
        skipSpace();
        if (at_ >= text_.size() || !isNameStart(text_[at_])) return value;
        auto unit = name();
        if (!unit) return unit;
        unit_ = *unit;
        return value * *unit;
    }

    Result<double> name() {
        const size_t start = at_++;
        if (isNameChar(text_[start]))
            while (at_ < text_.size() && (isNameChar(text_[at_]) || isDigit(text_[at_]))) ++at_;
        // A trailing minus belongs to the sum ("3mm-1mm"), not to the name.
        std::string_view word = text_.substr(start, at_ - start);
        while (!names_(word) && word.find('-') != word.npos) word = word.substr(0, word.rfind('-'));
        at_ = start + word.size();
        const auto value = names_(word);
        if (!value) return unknown("“" + std::string(word) + "” is not known here");
        return *value;
    }

    std::string_view text_;
    const NameValue& names_;
    size_t at_ = 0;
    int depth_ = 0;
    std::optional<double> unit_;
};

} // namespace

Result<double> evaluate(std::string_view text, const NameValue& names) {
    return Parser(text, names).whole();
}

NameValue lengthUnitsInMm(double pxPerMm) {
    return [pxPerMm](std::string_view name) -> std::optional<double> {
        if (name == "mm") return 1.0;
        if (name == "cm") return 10.0;
        if (name == "in" || name == "inch" || name == "\"") return kMmPerInch;
        if (name == "pt") return kMmPerInch / kPtPerInch;
        if (name == "px") return 1.0 / pxPerMm;
        return std::nullopt;
    };
}

} // namespace glyptos
