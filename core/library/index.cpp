#include "core/library/index.h"

#include <fmt/format.h>
#include <sqlite3.h>

#include <map>
#include <memory>

#include "core/base/cache_folder.h"
#include "core/base/packed.h"
#include "core/version.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

/// Goes up when what is packed is another thing.
constexpr int kLayout = 2;

using Database = std::unique_ptr<sqlite3, decltype(&sqlite3_close)>;
using Statement = std::unique_ptr<sqlite3_stmt, decltype(&sqlite3_finalize)>;

Statement prepared(sqlite3* db, const char* sql) {
    sqlite3_stmt* s = nullptr;
    sqlite3_prepare_v2(db, sql, -1, &s, nullptr);
    return {s, sqlite3_finalize};
}

bool done(sqlite3* db, const char* sql) { return sqlite3_exec(db, sql, nullptr, nullptr, nullptr) == SQLITE_OK; }

Database opened(const fs::path& file) {
    sqlite3* db = nullptr;
    if (sqlite3_open_v2(file.c_str(), &db, SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE, nullptr) != SQLITE_OK) {
        sqlite3_close(db);
        return {nullptr, sqlite3_close};
    }
    sqlite3_busy_timeout(db, 2000);
    return {db, sqlite3_close};
}

/// What says that the same program wrote it.
std::string stamp() { return fmt::format("{} {}", kVersion, kLayout); }

bool hasTables(sqlite3* db) {
    if (!done(db,
              "PRAGMA journal_mode=WAL; PRAGMA synchronous=OFF;"
              "CREATE TABLE IF NOT EXISTS about (stamp TEXT);"
              "CREATE TABLE IF NOT EXISTS parts (file TEXT PRIMARY KEY, size INTEGER, changed INTEGER, known BLOB);"))
        return false;
    const Statement asked = prepared(db, "SELECT stamp FROM about");
    if (!asked) return false;
    if (sqlite3_step(asked.get()) == SQLITE_ROW) {
        const auto* text = reinterpret_cast<const char*>(sqlite3_column_text(asked.get(), 0));
        if (text != nullptr && stamp() == text) return true;
    }
    const std::string anew = "DELETE FROM parts; DELETE FROM about; INSERT INTO about VALUES ('" + stamp() + "');";
    return done(db, anew.c_str());
}

void pack(Packed& to, const LibraryPart& p) {
    to.put(p.trouble);
    to.put(p.name);
    to.put(p.description);
    to.put(p.words);
    to.put(p.evidence);
    to.put(p.pins);
    to.put(p.state);
    to.put(p.wrong.size());
    for (const LibraryTrouble& t : p.wrong) {
        to.put(t.state);
        to.put(t.gauge);
        to.put(t.words);
    }
    to.put(p.pattern.has_value());
    if (!p.pattern) return;
    to.put(p.pattern->name);
    to.put(p.pattern->pads.size());
    for (const PatternPad& pad : p.pattern->pads) {
        to.put(pad.number);
        for (const double v : {pad.x, pad.y, pad.hole, pad.land, pad.doubt}) to.put(v);
    }
    to.put(p.pattern->keepouts);
}

LibraryPart unpacked(std::string bytes) {
    Packed from(std::move(bytes));
    LibraryPart p;
    from.get(p.trouble);
    from.get(p.name);
    from.get(p.description);
    from.get(p.words);
    from.get(p.evidence);
    from.get(p.pins);
    from.get(p.state);
    std::size_t wrong = 0;
    from.get(wrong);
    for (std::size_t i = 0; i < wrong; ++i) {
        LibraryTrouble& t = p.wrong.emplace_back();
        from.get(t.state);
        from.get(t.gauge);
        from.get(t.words);
    }
    bool has = false;
    from.get(has);
    if (!has) return p;
    p.pattern.emplace();
    from.get(p.pattern->name);
    std::size_t pads = 0;
    from.get(pads);
    if (pads > 1000000) throw std::runtime_error("too many pads");
    for (std::size_t i = 0; i < pads; ++i) {
        PatternPad& pad = p.pattern->pads.emplace_back();
        from.get(pad.number);
        for (double* v : {&pad.x, &pad.y, &pad.hole, &pad.land, &pad.doubt}) from.get(*v);
    }
    from.get(p.pattern->keepouts);
    return p;
}

struct Known {
    std::int64_t size = 0, changed = 0;
    std::string bytes;
};

std::map<std::string, Known> knownIn(sqlite3* db) {
    std::map<std::string, Known> all;
    const Statement rows = prepared(db, "SELECT file, size, changed, known FROM parts");
    while (rows && sqlite3_step(rows.get()) == SQLITE_ROW) {
        const auto* file = reinterpret_cast<const char*>(sqlite3_column_text(rows.get(), 0));
        const auto* bytes = static_cast<const char*>(sqlite3_column_blob(rows.get(), 3));
        if (file == nullptr || bytes == nullptr) continue;
        all[file] = {sqlite3_column_int64(rows.get(), 1), sqlite3_column_int64(rows.get(), 2),
                     std::string(bytes, static_cast<std::size_t>(sqlite3_column_bytes(rows.get(), 3)))};
    }
    return all;
}

void keep(sqlite3* db, const std::string& file, const Known& known) {
    const Statement row = prepared(db, "INSERT OR REPLACE INTO parts VALUES (?, ?, ?, ?)");
    if (!row) return;
    sqlite3_bind_text(row.get(), 1, file.data(), static_cast<int>(file.size()), SQLITE_STATIC);
    sqlite3_bind_int64(row.get(), 2, known.size);
    sqlite3_bind_int64(row.get(), 3, known.changed);
    sqlite3_bind_blob(row.get(), 4, known.bytes.data(), static_cast<int>(known.bytes.size()), SQLITE_STATIC);
    sqlite3_step(row.get());
}

}  // namespace

fs::path indexFileOf(const fs::path& folder) {
    const fs::path where = cacheFolder("libraries");
    if (where.empty()) return {};
    std::error_code error;
    const fs::path whole = fs::weakly_canonical(folder, error);
    // FNV-1a of its place: two folders of one name are two.
    std::uint64_t hash = 1469598103934665603ULL;
    for (const char c : whole.string()) hash = (hash ^ static_cast<unsigned char>(c)) * 1099511628211ULL;
    return where / fmt::format("{}-{:016x}.sqlite", whole.filename().string().substr(0, 60), hash);
}

namespace {

/// None where there is no place for it, or it cannot be written: then everything is read.
Database indexOf(const fs::path& folder, const fs::path& index) {
    const fs::path where = index.empty() ? indexFileOf(folder) : index;
    Database db(nullptr, sqlite3_close);
    if (where.empty()) return db;
    std::error_code error;
    fs::create_directories(where.parent_path(), error);
    db = opened(where);
    if (db && !hasTables(db.get())) {
        // No database, or half of one: begun anew.
        db.reset();
        for (const char* tail : {"", "-wal", "-shm"}) fs::remove(where.string() + tail, error);
        db = opened(where);
        if (db && !hasTables(db.get())) db.reset();
    }
    return db;
}

std::string keyOf(const fs::path& folder, const fs::path& file) { return file.lexically_relative(folder).string(); }

Known asItIs(const fs::path& file) {
    std::error_code error;
    return {static_cast<std::int64_t>(fs::file_size(file, error)),
            fs::last_write_time(file, error).time_since_epoch().count(), {}};
}

/// `unread`: places of those that the index does not know.
IndexedLibrary fromIndex(const fs::path& folder, const std::vector<fs::path>& files, sqlite3* db,
                         std::vector<std::size_t>& unread) {
    std::map<std::string, Known> known;
    if (db != nullptr) known = knownIn(db);
    IndexedLibrary out;
    out.parts.resize(files.size());
    for (std::size_t i = 0; i < files.size(); ++i) {
        const fs::path& file = files[i];
        const Known now = asItIs(file);
        const std::string key = keyOf(folder, file);
        bool good = false;
        if (const auto it = known.find(key);
            it != known.end() && it->second.size == now.size && it->second.changed == now.changed) {
            try {
                out.parts[i] = unpacked(std::move(it->second.bytes));
                good = true;
            } catch (const std::exception&) {
                // Whatever stands there, the part is read again.
            }
        }
        out.parts[i].file = file;
        known.erase(key);
        if (!good) unread.push_back(i);
    }
    if (db != nullptr && !known.empty()) {
        done(db, "BEGIN");
        for (const auto& [gone, ignored] : known) {
            const Statement row = prepared(db, "DELETE FROM parts WHERE file = ?");
            if (!row) break;
            sqlite3_bind_text(row.get(), 1, gone.data(), static_cast<int>(gone.size()), SQLITE_STATIC);
            sqlite3_step(row.get());
        }
        done(db, "COMMIT");
    }
    return out;
}

void keepAll(const fs::path& folder, sqlite3* db, const std::vector<LibraryPart>& parts) {
    if (db == nullptr || parts.empty()) return;
    done(db, "BEGIN");
    for (const LibraryPart& p : parts) {
        Known now = asItIs(p.file);
        Packed to{std::string()};
        pack(to, p);
        now.bytes = to.take();
        keep(db, keyOf(folder, p.file), now);
    }
    done(db, "COMMIT");
}

}  // namespace

Result<IndexedLibrary> knownLibrary(const fs::path& folder, const fs::path& index) {
    const auto files = libraryFiles(folder);
    if (!files) return tl::make_unexpected(files.error());
    std::vector<std::size_t> unread;
    IndexedLibrary out = fromIndex(folder, *files, indexOf(folder, index).get(), unread);
    out.read = unread.size();
    return out;
}

void remember(const fs::path& folder, const std::vector<LibraryPart>& parts, const fs::path& index) {
    keepAll(folder, indexOf(folder, index).get(), parts);
}

Result<IndexedLibrary> indexedLibrary(const fs::path& folder, const fs::path& index) {
    const auto files = libraryFiles(folder);
    if (!files) return tl::make_unexpected(files.error());
    const Database db = indexOf(folder, index);
    std::vector<std::size_t> places;
    IndexedLibrary out = fromIndex(folder, *files, db.get(), places);
    std::vector<fs::path> unread;
    for (const std::size_t i : places) unread.push_back((*files)[i]);
    std::vector<LibraryPart> parts = libraryParts(unread);
    out.read = parts.size();
    keepAll(folder, db.get(), parts);
    for (std::size_t k = 0; k < parts.size(); ++k) out.parts[places[k]] = std::move(parts[k]);
    return out;
}

}  // namespace punch
