#pragma once
/// A shared value that is compared by what it holds.
#include <memory>

namespace hygros {

/// Like std::shared_ptr<const T>, but two are equal when both are empty or what they point to is equal.
template <class T> struct Content {
    std::shared_ptr<const T> value;
    Content() = default;
    Content(std::nullptr_t) {}
    template <class U> Content(std::shared_ptr<U> v) : value(std::move(v)) {}
    explicit operator bool() const { return static_cast<bool>(value); }
    const T& operator*() const { return *value; }
    const T* operator->() const { return value.get(); }
    bool operator==(const Content& o) const { return value == o.value || (value && o.value && *value == *o.value); }
};
} // namespace hygros
