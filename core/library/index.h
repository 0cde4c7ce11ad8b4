#pragma once
// What is known of a library's parts, kept in an SQLite file in the cache, so that only what changed is read again.
//
// A part is known by its file's place, size and time of change. The file may be deleted at any time; one that cannot
// be opened, written or understood is no error: then everything is read.

#include <functional>

#include "core/library/library.h"

namespace punch {

struct IndexedLibrary {
    std::vector<LibraryPart> parts;  ///< by file
    std::size_t read = 0;            ///< that were not known
};

/// What the index knows without reading a part: the others have a file and no name, and are counted in `read`.
Result<IndexedLibrary> knownLibrary(const std::filesystem::path& folder, const std::filesystem::path& index = {});

/// Keeps what was read of these parts of the folder.
void remember(const std::filesystem::path& folder, const std::vector<LibraryPart>& parts,
              const std::filesystem::path& index = {});

/// `index`: its file; empty: the one of this folder in the cache. Errors: there is no such folder.
Result<IndexedLibrary> indexedLibrary(const std::filesystem::path& folder, const std::filesystem::path& index = {});

std::filesystem::path indexFileOf(const std::filesystem::path& folder);

}  // namespace punch
