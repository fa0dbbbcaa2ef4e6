#pragma once
// What a camera gives up of where it would like to be, because that keeps more distance: its shoulder, or how high it
// orbits. Shares of that are judged by what each is worth, now and a little ahead, in one moment after the other. What
// was given up is taken back only after that has been better for a while; and it moves gently, at a speed that can be
// foreseen. A trivially copyable value.

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <iterator>
#include <limits>

namespace alpglow {

class Concession {
 public:
  /// Of what is asked for, how much may be kept; and in how many moments that is judged.
  static constexpr double shares[] = {1, 0.5, 0};
  static constexpr std::size_t moments = 3;
  /// In metres: what each share is worth in a moment; endless where nothing is in the way of the whole.
  using Worths = std::array<double, std::size(shares)>;
  static constexpr double endless = std::numeric_limits<double>::infinity();

  /// Goes on to the next moment: which one, and what its shares are worth, to be filled in.
  std::size_t nextMoment();
  Worths& worths() { return worths_[next_]; }
  /// The whole is free in every moment that was looked at.
  bool free() const { return least(0) == endless; }
  /// Nobody asks what shares are worth: nothing is known of that any more.
  void forget() {
    worths_ = unknown();
    next_ = 0;
  }
  /// All is wanted back at once.
  void takeBack() { share_ = 1; }
  /// The share that is worth most, where giving up all of it costs `price` metres, and where another than now has to be
  /// better by `stays` metres.
  void choose(double price, double stays, double seconds);
  /// Of `whole`, toward what was chosen, critically damped and never faster than `speed` a second; what is less than
  /// `hair` is nothing.
  void move(double whole, double speed, double seconds, double hair);

  /// Of what is asked for: what is given up now, what will be in the end, and in so many seconds.
  double given() const { return given_; }
  double goal(double whole) const { return whole * (1 - share_); }
  double in(double whole, double speed, double seconds) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("share").number(share_, 0, 1);
    fields.named("given").number(given_, 0, 1e15);
    fields.named("giving").numbers(1e15, giving_);
    for (Worths& moment : worths_) {
      for (double& worth : moment) fields.named("worth").number(worth, -1e15, endless);
    }
    fields.named("next").whole(next_, moments - 1);
    fields.named("prefers").times(prefers_);
  }

 private:
  static constexpr std::array<Worths, moments> unknown() {
    return {{{endless, 0, 0}, {endless, 0, 0}, {endless, 0, 0}}};
  }
  double least(std::size_t share) const;

  double share_ = 1, prefers_ = 0;  // what is aimed at; and for how many seconds more was preferred
  double given_ = 0, giving_ = 0;   // and a second
  std::array<Worths, moments> worths_ = unknown();
  std::uint8_t next_ = 0;
};

}  // namespace alpglow
