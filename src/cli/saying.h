// How commands speak: results on stdout, sentences on stderr, and nothing else on either.
#pragma once

#include "base/json.h"

#include <memory>
#include <streambuf>
#include <string>
#include <vector>

namespace glyptos::cli {

/// A sentence on stderr, as one line.
void warn(const std::string& sentence);
/// Several; of very many the first ones, and how many more there are.
void warn(const std::vector<std::string>& sentences);

/// JSON on stdout. What a terminal could take for an order is escaped, so that the text stays what it is.
void print(const Json& json, int indent = 2);

/// As long as it lives, control characters of what goes to std::cout and std::cerr are shown as marks
/// (base/text.h), and what libraries write to stderr by themselves is lost.
class PlainSpeech {
  public:
    PlainSpeech();
    ~PlainSpeech();
    PlainSpeech(const PlainSpeech&) = delete;
    PlainSpeech& operator=(const PlainSpeech&) = delete;

  private:
    class Lines;
    int errors_; ///< where stderr led
    std::unique_ptr<Lines> outLines_, errorLines_;
    std::streambuf *out_, *error_;
};

} // namespace glyptos::cli
