#include "workers.hpp"

#include "progress.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <condition_variable>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

namespace alpglow::cli {

void inParallel(const std::string& done, std::size_t count, const std::function<void(std::size_t)>& work) {
  std::atomic<std::size_t> next{0};
  std::size_t finished = 0;
  std::exception_ptr failed;
  std::mutex guard;
  std::condition_variable changed;
  const auto run = [&] {
    for (std::size_t i = next++; i < count; i = next++) {
      std::exception_ptr thrown;
      try {
        work(i);
      } catch (...) {
        thrown = std::current_exception();
      }
      const std::lock_guard<std::mutex> lock(guard);
      if (thrown && !failed) failed = thrown;
      if (thrown) next = count;  // nobody begins another one
      ++finished;
      changed.notify_one();
    }
  };
  std::vector<std::thread> threads;
  const std::size_t most = std::max<std::size_t>(std::thread::hardware_concurrency(), 1);
  for (std::size_t i = 0; i < std::min(most, count); ++i) threads.emplace_back(run);
  Progress progress;
  {
    std::unique_lock<std::mutex> lock(guard);
    const auto ended = [&] { return finished == count || failed; };
    while (!changed.wait_for(lock, std::chrono::seconds(1), ended))
      progress.say([&] { return fmt::format("{} {} of {}", done, finished, count); },
                   static_cast<double>(finished) / static_cast<double>(count));
  }
  for (std::thread& thread : threads) thread.join();
  if (failed) std::rethrow_exception(failed);
}

}  // namespace alpglow::cli
