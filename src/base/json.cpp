#include "base/json.h"

#include <nlohmann/json.hpp>

namespace glyptos {
namespace {

using Written = nlohmann::ordered_json;

/// Puts values together as the parser meets them; its member names are the parser's.
class Builder {
  public:
    bool null() { return put({}); }
    bool boolean(bool v) { return put(v); }
    bool number_integer(int64_t v) { return put(v); }
    bool number_unsigned(uint64_t v) { return put(v <= INT64_MAX ? Json(int64_t(v)) : Json(double(v))); }
    bool number_float(double v, const std::string&) { return put(v); }
    bool string(std::string& v) { return put(std::move(v)); }
    bool binary(const std::vector<uint8_t>&) { return false; }
    bool start_object(size_t) { return open(Json::object()); }
    bool key(std::string& key) {
        keys_.back() = std::move(key);
        return true;
    }
    bool end_object() { return close(); }
    bool start_array(size_t) { return open(Json::list()); }
    bool end_array() { return close(); }
    bool parse_error(size_t, const std::string&, const nlohmann::detail::exception&) { return false; }

    Json take() { return std::move(root_); }

  private:
    bool put(Json value) {
        if (open_.empty())
            root_ = std::move(value);
        else if (open_.back().as<Json::List>())
            open_.back().push_back(std::move(value));
        else
            open_.back()[keys_.back()] = std::move(value);
        return true;
    }
    bool open(Json value) {
        if (open_.size() >= kDeepestJson) return false;
        open_.push_back(std::move(value));
        keys_.emplace_back();
        return true;
    }
    bool close() {
        Json done = std::move(open_.back());
        open_.pop_back();
        keys_.pop_back();
        return put(std::move(done));
    }

    Json root_;
    std::vector<Json> open_;        ///< objects and lists that are not closed yet, outermost first
    std::vector<std::string> keys_; ///< of the member that is read in each of them
};

Written written(const Json& json) {
    if (const auto* items = json.as<Json::List>()) {
        Written out = Written::array();
        for (const Json& item : *items) out.push_back(written(item));
        return out;
    }
    if (const auto* members = json.as<Json::Members>()) {
        Written out = Written::object();
        for (const auto& [key, value] : *members) out[key] = written(value);
        return out;
    }
    if (const auto* text = json.as<std::string>()) return *text;
    if (const auto* flag = json.as<bool>()) return *flag;
    if (const auto* whole = json.as<int64_t>()) return *whole;
    if (const auto* real = json.as<double>()) return *real;
    return nullptr;
}

} // namespace

Json::Json(const std::vector<std::string>& texts)
    : value_(List(texts.begin(), texts.end())) {}

double Json::number() const {
    if (const auto* whole = as<int64_t>()) return double(*whole);
    const auto* real = as<double>();
    return real ? *real : 0;
}

const Json* Json::find(std::string_view key) const {
    if (const auto* members = as<Members>())
        for (const auto& [name, value] : *members)
            if (name == key) return &value;
    return nullptr;
}

Json& Json::operator[](std::string_view key) {
    if (as<std::monostate>()) value_ = Members();
    auto& members = std::get<Members>(value_);
    for (auto& [name, value] : members)
        if (name == key) return value;
    return members.emplace_back(std::string(key), Json()).second;
}

void Json::push_back(Json item) {
    if (as<std::monostate>()) value_ = List();
    std::get<List>(value_).push_back(std::move(item));
}

void Json::update(const Json& members) {
    for (const auto& [key, value] : *members.as<Members>()) (*this)[key] = value;
}

std::string Json::dump(int indent) const {
    return written(*this).dump(indent, ' ', false, Written::error_handler_t::replace);
}

Result<Json> parseJson(std::string_view text) {
    Builder builder;
    if (!Written::sax_parse(text.begin(), text.end(), &builder))
        return fail(Fault::Damaged, "its text is not valid JSON");
    return builder.take();
}

} // namespace glyptos
