// Internal to form: formulas of one form, worked out under names that come and go.
#pragma once

#include "form/flat.h"

namespace glyptos {

/// Gathers the first thing that is wrong; after that everything is 0.
class Formulas {
  public:
    explicit Formulas(const Form& form)
        : form_(form) {}

    double value(const std::string& formula, const std::string& of);
    double valueOr(const std::string& formula, double otherwise, const std::string& of) {
        return formula.empty() ? otherwise : value(formula, of);
    }
    /// A whole number of at least 0.
    int count(const std::string& formula, const std::string& of);
    /// With its `{…}` worked out.
    std::string filled(const std::string& text, const std::string& of);
    /// The formula with figures in place of names: "2 × 0.45 + 1 × (2.3 + 0.3) + 0.3".
    std::string spelledOut(const std::string& formula) const;
    Outline outline(const OutlineForm& form, const std::string& of);
    /// Calls act() for each time that something is there, its counting name standing for which one it is.
    template <class Act>
    void each(const Presence& presence, const std::string& of, Act act) {
        const int times = presence.as.empty() ? 1 : count(presence.count, of);
        for (int i = 1; i <= times && good(); ++i) {
            if (!presence.as.empty()) names_[presence.as] = i;
            if (valueOr(presence.when, 1, of) > 0) act();
        }
        names_.erase(presence.as);
    }

    void set(const std::string& name, double value) { names_[name] = value; }
    const ParameterValues& names() const { return names_; }
    void wrong(Fault fault, const std::string& message) {
        if (good()) error_ = {fault, message};
    }
    bool good() const { return error_.message.empty(); }
    const Error& error() const { return error_; }

  private:
    const Form& form_;
    ParameterValues names_;
    Error error_;
};

} // namespace glyptos
