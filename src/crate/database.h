// Internal to crate: SQLite with errors as values.
#pragma once

#include "base/error.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <string>
#include <string_view>

struct sqlite3;
struct sqlite3_stmt;

namespace glyptos {

/// A prepared statement. Texts bound to it are copied.
class Statement {
  public:
    Statement& bind(int64_t value);
    Statement& bind(std::string_view text);
    /// True while there is a row; false at the end or when it failed (then failed() is true).
    bool step();
    bool failed() const { return failed_; }
    int64_t number(int column) const;
    std::string text(int column) const;
    /// Ready to be bound and run again.
    void reset();

  private:
    friend class Database;
    struct Finalize {
        void operator()(sqlite3_stmt* s) const;
    };
    std::unique_ptr<sqlite3_stmt, Finalize> statement_;
    int next_ = 1;
    bool failed_ = false;
};

class Database {
  public:
    enum class Access { ReadWrite, ReadOnly, Memory };
    /// Waits up to ten seconds for other writers.
    [[nodiscard]] static Result<Database> open(const std::filesystem::path& file, Access access);

    /// Runs statements without results. False when they failed.
    bool run(const char* sql);
    Result<Statement> prepare(std::string_view sql);
    std::string lastError() const;

  private:
    struct Close {
        void operator()(sqlite3* db) const;
    };
    std::unique_ptr<sqlite3, Close> db_;
};

} // namespace glyptos
