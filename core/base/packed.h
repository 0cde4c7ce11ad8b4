#pragma once
// Values packed into bytes and back, between a process and its worker: same machine, same build, no versions.
// Unpacking more than there is throws std::runtime_error.

#include <cstring>
#include <memory>
#include <optional>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

namespace punch {

class Packed {
public:
    Packed() = default;
    explicit Packed(std::string bytes) : held_(std::make_unique<std::string>(std::move(bytes))) {}
    std::string take() { return std::move(*held_); }

    template <class T>
    requires std::is_trivially_copyable_v<T>
    void put(const T& value) {
        const std::size_t at = held_->size();
        held_->resize(at + sizeof value);
        std::memcpy(held_->data() + at, &value, sizeof value);
    }
    void put(const std::string& s) {
        put(s.size());
        (*held_) += s;
    }
    template <class T>
    void put(const std::vector<T>& all) {
        put(all.size());
        if constexpr (std::is_trivially_copyable_v<T>)
            held_->append(reinterpret_cast<const char*>(all.data()), all.size() * sizeof(T));
        else
            for (const T& t : all) put(t);
    }
    template <class T>
    requires(!std::is_trivially_copyable_v<std::optional<T>>) void put(const std::optional<T>& t) {
        put(t.has_value());
        if (t) put(*t);
    }

    template <class T>
    requires std::is_trivially_copyable_v<T>
    void get(T& value) {
        need(sizeof value);
        std::memcpy(static_cast<void*>(&value), held_->data() + at_, sizeof value);
        at_ += sizeof value;
    }
    void get(std::string& s) {
        std::size_t size = 0;
        get(size);
        need(size);
        s.assign((*held_), at_, size);
        at_ += size;
    }
    template <class T>
    void get(std::vector<T>& all) {
        std::size_t size = 0;
        get(size);
        if constexpr (std::is_trivially_copyable_v<T>) {
            need(size, sizeof(T));
            all.resize(size);
            if (size > 0) std::memcpy(static_cast<void*>(all.data()), held_->data() + at_, size * sizeof(T));
            at_ += size * sizeof(T);
        } else {
            need(size);
            all.resize(size);
            for (T& t : all) get(t);
        }
    }
    template <class T>
    requires(!std::is_trivially_copyable_v<std::optional<T>>) void get(std::optional<T>& t) {
        bool has = false;
        get(has);
        if (has) get(t.emplace());
    }

private:
    void need(std::size_t count, std::size_t each = 1) const {
        if (count > (held_->size() - at_) / each) throw std::runtime_error("packed bytes end early");
    }
    std::unique_ptr<std::string> held_ = std::make_unique<std::string>();
    std::size_t at_ = 0;
};

}  // namespace punch
