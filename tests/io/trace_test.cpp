#include "alpglow/io/trace.hpp"

#include "support/expect_error.hpp"
#include "support/random.hpp"
#include "support/temporary_file.hpp"

#include "alpglow/io/camera_motion.hpp"
#include "alpglow/view/view.hpp"

#include <gtest/gtest.h>
#include <tiny_gltf.h>

#include <cstring>

#include <fstream>
#include <set>
#include <sstream>

namespace alpglow::io {
namespace {

TEST(Trace, EveryColumnReadsBackToTheSameValue) {
  testing::Random random(15);
  Trace trace(20);
  for (TraceFrame& frame : trace) {
    for (const TraceColumn& column : traceColumns) {
      if (column.number != nullptr) column.number(frame) = random.between(-1e6, 1e6) / 3;
      if (column.text != nullptr) column.text(frame) = std::string("wall, \"north\" of ") + column.name;
    }
    frame.time = static_cast<double>(&frame - trace.data()) + random.between(0, 0.9);
  }
  Trace again = readTrace(testing::temporaryFile("a.csv", writeTrace(trace)));
  ASSERT_EQ(again.size(), trace.size());
  for (std::size_t i = 0; i < trace.size(); ++i) {
    for (const TraceColumn& column : traceColumns) {
      if (column.number != nullptr) {
        EXPECT_EQ(column.number(again[i]), column.number(trace[i])) << column.name;
      }
      if (column.text != nullptr) {
        EXPECT_EQ(column.text(again[i]), column.text(trace[i])) << column.name;
      }
    }
  }
}

TEST(Trace, EveryColumnHoldsAMemberOfItsOwn) {
  TraceFrame frame;
  std::set<const void*> members;
  std::set<std::string> names;
  for (const TraceColumn& column : traceColumns) {
    EXPECT_NE(column.number == nullptr, column.text == nullptr) << column.name;
    const void* member = column.number != nullptr ? static_cast<const void*>(&column.number(frame))
                                                  : static_cast<const void*>(&column.text(frame));
    EXPECT_TRUE(members.insert(member).second) << column.name << " holds what another column holds";
    EXPECT_TRUE(names.insert(column.name).second) << column.name;
  }
}

/// The names in the first cells of the table of columns in the document, in order.
std::vector<std::string> documentedColumns() {
  std::ifstream file(ALPGLOW_DOCS "/formats.md");
  std::vector<std::string> names;
  bool inside = false;
  for (std::string line; std::getline(file, line);) {
    if (line.rfind("| columns |", 0) == 0) inside = true;
    if (!inside || line.rfind("| `", 0) != 0) continue;
    const std::string cell = line.substr(3, line.find('`', 3) - 3);
    std::istringstream words(cell);
    for (std::string name; std::getline(words >> std::ws, name, ',');) names.push_back(name);
  }
  return names;
}

TEST(Trace, NamesComeBackWhateverIsInThemAndLinesMayEndAsTheyLike) {
  Trace trace(2);
  trace[0].obstacle = "a \"low\", wide beam";
  trace[0].events = ",";
  trace[1].time = 1;
  trace[1].obstacle = "two\r\nlines";
  std::string text = writeTrace(trace);
  for (const char* const end : {"\n", "\r\n"}) {
    std::string ended;
    for (const char c : text) ended += c == '\n' ? std::string(end) : std::string(1, c);
    const Trace again = readTrace(testing::temporaryFile("names.csv", ended));
    ASSERT_EQ(again.size(), 2u);
    EXPECT_EQ(again[0].obstacle, trace[0].obstacle);
    EXPECT_EQ(again[0].events, ",");
    EXPECT_EQ(again[1].obstacle, "two  lines");
    EXPECT_EQ(again[1].lookScale, 1);
    EXPECT_EQ(writeTrace(again), writeTrace(readTrace(testing::temporaryFile("plain.csv", text))));
  }
}

TEST(Trace, TheDocumentNamesTheColumnsInTheirOrder) {
  std::vector<std::string> columns;
  for (const TraceColumn& column : traceColumns) columns.emplace_back(column.name);
  EXPECT_EQ(documentedColumns(), columns);
}

TEST(Trace, WhereTheCameraWouldBeIsUnknownToTracesOfBefore) {
  const auto free = [](const std::string& columns) {
    return readTrace(testing::temporaryFile("f.csv", columns + "\n1,2,3\n")).at(0).free;
  };
  EXPECT_EQ(free("free_x_m,free_y_m,free_z_m"), Eigen::Vector3d(1, 2, 3));
  EXPECT_FALSE(free("camera_x_m,camera_y_m,camera_z_m").allFinite());
}

TEST(Trace, RefusesWhatIsBroken) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readTrace(testing::temporaryFile("b.csv", content)); }, words);
  };
  refused("a,b\n1,2\n", {":1:", "no column of a trace"});
  refused("time_s,yaw_deg\n1\n", {":2:", "1 cells", "2 columns"});
  refused("time_s,yaw_deg\n1,left\n", {":2:", "yaw_deg is \"left\""});
}

TEST(Trace, RefusesNumbersThatAreNoneAndTimeThatDoesNotGoOn) {
  const auto refused = [](const std::string& rows, const char* words) {
    testing::expectError([&] { readTrace(testing::temporaryFile("t.csv", "time_s,yaw_deg\n" + rows)); },
                         {words, "t.csv:3"});
  };
  for (const char* number : {"nan", "inf", "-inf", "1e300", "", "x", "1x"})
    refused("0,0\n1," + std::string(number) + "\n", "yaw_deg");
  refused("1,0\n1,0\n", "must be later than 1");
  refused("1,0\n0.5,0\n", "must be later than 1");
  refused("1,0\nnan,0\n", "time_s");
}

/// Read back by another reader: the numbers of the trace.
TEST(CameraMotion, IsWhatTheTraceSays) {
  io::Trace trace;
  for (int i = 0; i < 5; ++i) {
    io::TraceFrame frame;
    frame.time = 2 + 0.1 * i;
    frame.camera = {1.0 + i, 2, -3};
    frame.yaw = 170 + 10 * i;  // through the back
    frame.pitch = -20;
    frame.fieldOfView = 60 - i;
    frame.aspect = 1.5;
    frame.nearPlane = 0.06;
    trace.push_back(frame);
  }
  const std::string path = testing::temporaryFile("motion.gltf", io::cameraMotion(trace, "a \"name\""));
  tinygltf::TinyGLTF loader;
  tinygltf::Model model;
  std::string error, warning;
  ASSERT_TRUE(loader.LoadASCIIFromFile(&model, &error, &warning, path)) << error;
  ASSERT_EQ(model.animations.size(), 1u);
  EXPECT_EQ(model.nodes[0].name, "a \"name\"");
  EXPECT_NEAR(model.cameras[0].perspective.yfov, degrees(60), 1e-9);
  const auto numbers = [&](int accessor) {
    const tinygltf::BufferView& view =
        model.bufferViews[static_cast<std::size_t>(model.accessors[static_cast<std::size_t>(accessor)].bufferView)];
    std::vector<float> values(view.byteLength / 4);
    std::memcpy(values.data(), model.buffers[0].data.data() + view.byteOffset, view.byteLength);
    return values;
  };
  const auto& samplers = model.animations[0].samplers;
  EXPECT_NEAR(static_cast<double>(numbers(samplers[0].input)[3]), 0.3, 1e-6);
  EXPECT_EQ(numbers(samplers[0].output)[12], 5.0f);
  const std::vector<float> turns = numbers(samplers[1].output);
  for (std::size_t i = 0; i < 5; ++i) {
    const Eigen::Quaterniond turn(static_cast<double>(turns[4 * i + 3]), static_cast<double>(turns[4 * i]),
                                  static_cast<double>(turns[4 * i + 1]), static_cast<double>(turns[4 * i + 2]));
    View view;
    view.yaw = degrees(trace[i].yaw);
    view.pitch = degrees(trace[i].pitch);
    EXPECT_LT((turn * -Eigen::Vector3d::UnitZ() - view.forward()).norm(), 1e-6);
    if (i > 0) {
      EXPECT_GT(turns[4 * i + 3] * turns[4 * i - 1] + turns[4 * i] * turns[4 * i - 4] +
                    turns[4 * i + 1] * turns[4 * i - 3] + turns[4 * i + 2] * turns[4 * i - 2],
                0.9f);
    }
  }
  EXPECT_NEAR(static_cast<double>(numbers(samplers[2].output)[4]), degrees(56), 1e-6);
  EXPECT_THROW(io::cameraMotion({}, "none"), io::InputError);
}

}  // namespace
}  // namespace alpglow::io
