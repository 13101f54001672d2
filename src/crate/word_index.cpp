#include "crate/word_index.h"

#include <cctype>
#include <system_error>

namespace glyptos {
namespace {

constexpr int kVersion = 1;
constexpr const char* kMake = R"(
CREATE TABLE IF NOT EXISTS state (key TEXT PRIMARY KEY, value INTEGER NOT NULL) WITHOUT ROWID;
CREATE TABLE IF NOT EXISTS source (number INTEGER PRIMARY KEY, id TEXT NOT NULL UNIQUE);
CREATE VIRTUAL TABLE IF NOT EXISTS words USING fts5(title, tags, maker, kind, notes, origin, licence, name,
    tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3');
)";

int64_t single(Database& db, const char* sql) {
    auto statement = db.prepare(sql);
    return statement && statement->step() ? statement->number(0) : -1;
}

/// Every run of letters and digits as a beginning of a word, all of which have to be there.
std::string asMatch(const std::string& words) {
    std::string out, word;
    const auto flush = [&] {
        if (!word.empty()) out += (out.empty() ? "\"" : " \"") + word + "\"*";
        word.clear();
    };
    for (const char c : words) {
        const auto u = static_cast<unsigned char>(c);
        if (std::isalnum(u) != 0 || u >= 0x80)
            word += c;
        else
            flush();
    }
    flush();
    return out;
}

std::string joined(const std::vector<std::string>& parts) {
    std::string out;
    for (const std::string& part : parts) out += part + ' ';
    return out;
}

void removeFiles(const std::filesystem::path& file) {
    std::error_code code;
    std::filesystem::remove(file, code);
    std::filesystem::remove(file.string() + "-journal", code);
}

bool isSound(Database& db) {
    auto check = db.prepare("PRAGMA quick_check(1)");
    return check && check->step() && check->text(0) == "ok";
}

} // namespace

Result<WordIndex> WordIndex::inMemory() {
    auto db = Database::open({}, Database::Access::Memory);
    if (!db) return tl::unexpected(db.error());
    if (!db->run(kMake)) return fail(Fault::Unsupported, "SQLite was built without FTS5.");
    return WordIndex(std::move(*db));
}

Result<WordIndex> WordIndex::open(const std::filesystem::path& file, bool readOnly, std::string& note) {
    note.clear();
    for (int tries = 0; tries < 2; ++tries) {
        auto db = Database::open(file, readOnly ? Database::Access::ReadOnly : Database::Access::ReadWrite);
        const int64_t version = db ? single(*db, "PRAGMA user_version") : -1;
        if (version > kVersion) {
            note = "The index of the crate was made by a newer version of Glyptos and was left as it is; one "
                   "in memory "
                   "is used instead.";
            return inMemory();
        }
        bool good = db && version >= 0 && isSound(*db);
        if (good && !readOnly)
            good = db->run(kMake) && (version == kVersion ||
                                      db->run(("PRAGMA user_version = " + std::to_string(kVersion)).c_str()));
        if (good) {
            WordIndex index(std::move(*db));
            index.refresh();
            return index;
        }
        if (readOnly) break;
        note = "The index of the crate was damaged and has been made anew from its book; nothing is lost.";
        removeFiles(file);
    }
    if (!readOnly) note = "The index of the crate cannot be written; one in memory is used instead.";
    return inMemory();
}

void WordIndex::refresh() {
    const int64_t bytes = single(db_, "SELECT value FROM state WHERE key = 'book'");
    bookBytes_ = bytes > 0 ? size_t(bytes) : 0;
}

bool WordIndex::apply(const std::vector<Change>& changes, size_t bookBytes, bool fromNothing) {
    if (!db_.run("BEGIN IMMEDIATE")) return false;
    if (write(changes, bookBytes, fromNothing) && db_.run("COMMIT")) {
        bookBytes_ = bookBytes;
        return true;
    }
    db_.run("ROLLBACK");
    return false;
}

bool WordIndex::write(const std::vector<Change>& changes, size_t bookBytes, bool fromNothing) {
    if (fromNothing && !(db_.run("DELETE FROM source") && db_.run("DELETE FROM words"))) return false;
    auto number = db_.prepare("SELECT number FROM source WHERE id = ?");
    auto enter = db_.prepare("INSERT INTO source (id) VALUES (?) RETURNING number");
    auto put = db_.prepare(
        "INSERT OR REPLACE INTO words (rowid, title, tags, maker, kind, notes, origin, licence, name) "
        "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)");
    auto dropWords = db_.prepare("DELETE FROM words WHERE rowid = ?");
    auto drop = db_.prepare("DELETE FROM source WHERE number = ?");
    auto state = db_.prepare("INSERT OR REPLACE INTO state VALUES ('book', ?)");
    if (!number || !enter || !put || !dropWords || !drop || !state) return false;
    const auto numberOf = [&](const std::string& id) {
        number->reset();
        return number->bind(id).step() ? number->number(0) : int64_t(0);
    };
    for (const Change& change : changes) {
        int64_t row = numberOf(change.put ? change.put->id : change.drop);
        if (change.put) {
            if (row == 0) {
                enter->reset();
                if (!enter->bind(change.put->id).step()) return false;
                row = enter->number(0);
                enter->step();
            }
            const SourceFacts& f = change.put->facts;
            put->reset();
            put->bind(row)
                .bind(f.title)
                .bind(joined(f.tags))
                .bind(f.maker)
                .bind(nameOf(f.kind))
                .bind(f.notes)
                .bind(f.origin)
                .bind(f.licence)
                .bind(change.put->fileName());
            put->step();
            if (put->failed()) return false;
        } else if (row != 0) {
            for (auto* statement : {&dropWords, &drop}) {
                (*statement)->reset();
                (*statement)->bind(row).step();
                if ((*statement)->failed()) return false;
            }
        }
    }
    state->bind(int64_t(bookBytes)).step();
    return !state->failed();
}

std::vector<std::string> WordIndex::matching(const std::string& words) {
    std::vector<std::string> out;
    const std::string match = asMatch(words);
    if (match.empty()) return out;
    auto search = db_.prepare("SELECT source.id FROM words JOIN source ON source.number = words.rowid "
                              "WHERE words MATCH ? ORDER BY bm25(words, 10, 6, 4, 3, 1, 1, 1, 2)");
    if (!search) return out;
    search->bind(match);
    while (search->step()) out.push_back(search->text(0));
    return out;
}

} // namespace glyptos
