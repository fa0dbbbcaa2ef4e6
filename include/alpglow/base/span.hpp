#pragma once
// A view of consecutive values that somebody else owns. It must not outlive them.

#include <cstddef>

namespace alpglow {

template <class T>
class Span {
 public:
  constexpr Span() = default;
  constexpr Span(T* first, std::size_t count) : first_(first), count_(count) {}
  template <std::size_t N>
  constexpr Span(T (&values)[N]) : first_(values), count_(N) {}
  template <class Container, class = decltype(static_cast<T*>(static_cast<Container*>(nullptr)->data()))>
  constexpr Span(Container& values) : first_(values.data()), count_(values.size()) {}

  constexpr T* begin() const { return first_; }
  constexpr T* end() const { return first_ + count_; }
  constexpr T& operator[](std::size_t index) const { return first_[index]; }
  constexpr std::size_t size() const { return count_; }
  constexpr bool empty() const { return count_ == 0; }

 private:
  T* first_ = nullptr;
  std::size_t count_ = 0;
};

}  // namespace alpglow
