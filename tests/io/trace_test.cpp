#include "alpglow/io/trace.hpp"

#include "support/expect_error.hpp"
#include "support/random.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

namespace alpglow::io {
namespace {

TEST(Trace, NumbersReadBackToTheSameValue) {
  testing::Random random(15);
  Trace trace(50);
  for (TraceFrame& frame : trace) {
    frame.time = random.between(0, 1e-3);
    frame.camera = random.point(1e6);
    frame.yaw = random.between(-180, 180) / 3;
    frame.obstacle = "wall, \"north\"";
    frame.events = "cut pull-in-began";
  }
  const Trace again = readTrace(testing::temporaryFile("a.csv", writeTrace(trace)));
  ASSERT_EQ(again.size(), trace.size());
  for (std::size_t i = 0; i < trace.size(); ++i) {
    EXPECT_EQ(again[i].time, trace[i].time);
    EXPECT_EQ(again[i].camera, trace[i].camera);
    EXPECT_EQ(again[i].yaw, trace[i].yaw);
    EXPECT_EQ(again[i].obstacle, trace[i].obstacle);
    EXPECT_EQ(again[i].events, trace[i].events);
  }
}

TEST(Trace, ColumnsStandInTheDocumentedOrder) {
  const std::vector<std::string> columns = traceColumns();
  const std::vector<std::string> first = {
      "frame", "time_s", "dt_s", "subject_x_m", "subject_y_m", "subject_z_m", "subject_heading_deg"};
  ASSERT_GE(columns.size(), 29u);
  EXPECT_TRUE(std::equal(first.begin(), first.end(), columns.begin()));
  EXPECT_EQ(columns[16], "yaw_deg");
  EXPECT_EQ(columns[28], "events");
}

TEST(Trace, RefusesWhatIsBroken) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readTrace(testing::temporaryFile("b.csv", content)); }, words);
  };
  refused("a,b\n1,2\n", {":1:", "no column of a trace"});
  refused("time_s,yaw_deg\n1\n", {":2:", "1 cells", "2 columns"});
  refused("time_s,yaw_deg\n1,left\n", {":2:", "yaw_deg is \"left\""});
}

}  // namespace
}  // namespace alpglow::io
