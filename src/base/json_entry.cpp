#include "base/json_entry.h"

#include "base/text.h"

#include <algorithm>
#include <cmath>

namespace glyptos {

std::string Entry::path() const {
    const std::string before = parent_ ? parent_->path() : std::string();
    if (item_ != kNoItem) return before + "[" + std::to_string(item_) + "]";
    return parent_ ? before + "." + name_ : std::string(name_);
}

void Entry::wrong(const std::string& what, Fault fault) const {
    throw Wrong{fault, path() + " " + what};
}

std::string Entry::text() const {
    const auto* text = json_.as<std::string>();
    if (!text) wrong("should be text");
    return *text;
}

double Entry::number() const {
    const double v = json_.number();
    if (!json_.isNumber() || !std::isfinite(v)) wrong("should be a number");
    return v;
}

int Entry::whole(int least, int most) const {
    const double v = number();
    if (v != std::floor(v) || v < least || v > most)
        wrong("should be a whole number from " + std::to_string(least) + " to " + std::to_string(most));
    return static_cast<int>(v);
}

bool Entry::flag() const {
    const auto* flag = json_.as<bool>();
    if (!flag) wrong("should be true or false");
    return *flag;
}

const Json::List& Entry::list() const {
    const auto* list = json_.as<Json::List>();
    if (!list) wrong("should be a list");
    return *list;
}

const Json::Members& Entry::object() const {
    const auto* members = json_.as<Json::Members>();
    if (!members) wrong("should be an object");
    return *members;
}

Entry Entry::at(const char* key) const& {
    (void)object();
    const Json* member = json_.find(key);
    if (!member) throw Wrong{Fault::Damaged, path(key) + " is missing"};
    return {*member, *this, key};
}

bool Entry::has(const char* key) const {
    (void)object();
    return json_.find(key) != nullptr;
}

void Entry::only(std::span<const char* const> known) const {
    for (const auto& [key, value] : object())
        if (std::none_of(known.begin(), known.end(), [&k = key](const char* name) { return k == name; }))
            wrong("has an unknown entry “" + key + "”");
}

std::string Entry::textOr(const char* key, std::string otherwise) const {
    return has(key) ? text(key) : std::move(otherwise);
}

double Entry::between(const char* key, double least, double most) const {
    const Entry member = at(key);
    const double v = member.number();
    if (v < least || v > most)
        member.wrong("should lie between " + shortNumber(least) + " and " + shortNumber(most));
    return v;
}

double Entry::positive(const char* key) const {
    const Entry member = at(key);
    const double v = member.number();
    if (!(v > 0)) member.wrong("should be positive");
    return v;
}

size_t Entry::oneOf(const char* key, std::span<const char* const> names) const {
    const Entry member = at(key);
    const std::string name = member.text();
    for (size_t i = 0; i < names.size(); ++i)
        if (name == names[i]) return i;
    std::string all;
    for (size_t i = 0; i < names.size(); ++i)
        all += std::string(i == 0 ? "" : i + 1 == names.size() ? " or " : ", ") + names[i];
    member.wrong("should be " + all);
}

void Entry::numbers(std::span<double> out) const {
    const auto& items = list();
    const auto good = [](const Json& item) { return item.isNumber() && std::isfinite(item.number()); };
    if (items.size() != out.size() || !std::all_of(items.begin(), items.end(), good))
        wrong("should be " + std::to_string(out.size()) + " numbers");
    for (size_t i = 0; i < items.size(); ++i) out[i] = items[i].number();
}

Entry Entry::item(size_t index, size_t size) const& {
    if (list().size() != size) wrong("should be a list of " + std::to_string(size));
    return {list()[index], *this, index};
}

std::vector<std::string> Entry::texts(const char* key) const {
    std::vector<std::string> out;
    each(key, [&](const Entry& item) { out.push_back(item.text()); });
    return out;
}

} // namespace glyptos
