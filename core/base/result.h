#pragma once
// What a user can get wrong comes back as a value: what is wrong, where, and what to do about it.

#include <string>
#include <tl/expected.hpp>

namespace punch {

struct Problem {
    std::string what;   ///< "0,5 is not a number"
    std::string where;  ///< file, field or reading; may be empty
    std::string todo;   ///< the next step for the user

    /// One line for a status bar or a terminal.
    std::string text() const {
        std::string line = where.empty() ? what : where + ": " + what;
        if (!todo.empty()) line += ". " + todo;
        return line;
    }
};

template <class T>
using Result = tl::expected<T, Problem>;

inline tl::unexpected<Problem> problem(std::string what, std::string where = {}, std::string todo = {}) {
    return tl::make_unexpected(Problem{std::move(what), std::move(where), std::move(todo)});
}

}  // namespace punch
