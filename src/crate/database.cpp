#include "crate/database.h"

#include <sqlite3.h>

namespace glyptos {

void Statement::Finalize::operator()(sqlite3_stmt* s) const {
    sqlite3_finalize(s);
}

void Database::Close::operator()(sqlite3* db) const {
    sqlite3_close(db);
}

Statement& Statement::bind(int64_t value) {
    sqlite3_bind_int64(statement_.get(), next_++, value);
    return *this;
}

Statement& Statement::bind(std::string_view text) {
    sqlite3_bind_text(statement_.get(), next_++, text.data(), int(text.size()), SQLITE_TRANSIENT);
    return *this;
}

bool Statement::step() {
    const int code = sqlite3_step(statement_.get());
    failed_ = code != SQLITE_ROW && code != SQLITE_DONE;
    return code == SQLITE_ROW;
}

int64_t Statement::number(int column) const {
    return sqlite3_column_int64(statement_.get(), column);
}

std::string Statement::text(int column) const {
    const auto* text = sqlite3_column_text(statement_.get(), column);
    return text ? std::string(reinterpret_cast<const char*>(text),
                              size_t(sqlite3_column_bytes(statement_.get(), column)))
                : std::string();
}

void Statement::reset() {
    sqlite3_reset(statement_.get());
    sqlite3_clear_bindings(statement_.get());
    next_ = 1;
}

Result<Database> Database::open(const std::filesystem::path& file, Access access) {
    constexpr int kPatience = 10'000; // ms
    sqlite3* raw = nullptr;
    const int flags =
        access == Access::ReadOnly ? SQLITE_OPEN_READONLY : SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE;
    const std::string name = access == Access::Memory ? ":memory:" : file.string();
    const int code = sqlite3_open_v2(name.c_str(), &raw, flags | SQLITE_OPEN_NOMUTEX, nullptr);
    Database db;
    db.db_.reset(raw);
    if (code != SQLITE_OK) return fail(Fault::Unreadable, raw ? sqlite3_errmsg(raw) : "no memory");
    sqlite3_busy_timeout(raw, kPatience);
    return db;
}

bool Database::run(const char* sql) {
    return sqlite3_exec(db_.get(), sql, nullptr, nullptr, nullptr) == SQLITE_OK;
}

Result<Statement> Database::prepare(std::string_view sql) {
    sqlite3_stmt* raw = nullptr;
    if (sqlite3_prepare_v2(db_.get(), sql.data(), int(sql.size()), &raw, nullptr) != SQLITE_OK)
        return fail(Fault::Damaged, lastError());
    Statement out;
    out.statement_.reset(raw);
    return out;
}

std::string Database::lastError() const {
    return sqlite3_errmsg(db_.get());
}

} // namespace glyptos
