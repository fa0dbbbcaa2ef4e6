#pragma once
// Work that is done on all cores, with a line of progress.

#include <cstddef>
#include <functional>
#include <string>

namespace alpglow::cli {

/// Calls work(0) … work(count − 1), several at a time. The first exception is thrown once all have ended. From the
/// second second on, what is done is said on the error stream.
void inParallel(const std::string& done, std::size_t count, const std::function<void(std::size_t)>& work);

}  // namespace alpglow::cli
