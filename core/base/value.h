#pragma once
// Plain values that are too large to be copied, moved and compared anew by every unit that holds one.
//
// The compiler writes these operations by itself, but into each unit: of a Part some ten thousand bytes each time, which
// were up to two thirds of what a unit was compiled to. A value declares them where it stands and lets one file have them:
//
//   struct Part {                                   // part.h
//       PUNCH_VALUE(Part)
//       std::string name;
//   };
//   PUNCH_VALUE_IS_HERE(Part)                       // part.cpp
//
// They do what the compiler's own do. Such a value is no aggregate: it is made empty and its members are set.

/// The first line of a value's definition.
#define PUNCH_VALUE(Type)           \
    Type();                         \
    Type(const Type&);              \
    Type(Type&&) noexcept;          \
    Type& operator=(const Type&);   \
    Type& operator=(Type&&) noexcept; \
    ~Type();

/// In one file, in the value's namespace.
#define PUNCH_VALUE_IS_HERE(Type)                    \
    Type::Type() = default;                          \
    Type::Type(const Type&) = default;               \
    Type::Type(Type&&) noexcept = default;           \
    Type& Type::operator=(const Type&) = default;    \
    Type& Type::operator=(Type&&) noexcept = default; \
    Type::~Type() = default;
