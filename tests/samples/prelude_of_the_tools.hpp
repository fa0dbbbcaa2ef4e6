#pragma once
// The same for the modules around the core.

#include "prelude.hpp"

#include <btBulletCollisionCommon.h>

#include <alpglow/bullet/bullet_obstacles.hpp>
#include <alpglow/conformance/checked_obstacles.hpp>
#include <alpglow/conformance/suite.hpp>
#include <alpglow/embree/embree_triangles.hpp>
#include <alpglow/feel/feel.hpp>
#include <alpglow/feel/plot.hpp>
#include <alpglow/feel/telling.hpp>
#include <alpglow/io/camera_motion.hpp>
#include <alpglow/io/design_file.hpp>
#include <alpglow/io/design_text.hpp>
#include <alpglow/io/input_error.hpp>
#include <alpglow/io/level_file.hpp>
#include <alpglow/io/limits_file.hpp>
#include <alpglow/panel/design_panel.hpp>
#include <alpglow/panel/feel_panel.hpp>
#include <alpglow/panel/rows.hpp>
#include <alpglow/panel/theme.hpp>
#include <alpglow/play/controls_picture.hpp>
#include <alpglow/play/parts.hpp>
#include <alpglow/play/place_by_eye.hpp>
#include <alpglow/play/play.hpp>
#include <alpglow/play/session.hpp>
#include <alpglow/play/thing_in_hand.hpp>
#include <alpglow/sdl/sdl_input.hpp>
#include <alpglow/sdl/start.hpp>
#include <alpglow/stage/audit.hpp>
#include <alpglow/stage/outside_view.hpp>
#include <alpglow/stage/picture.hpp>
#include <alpglow/stage/rehearsal.hpp>
#include <alpglow/stage/scene.hpp>
#include <alpglow/stage/stage.hpp>

using namespace alpglow::bullet;
using namespace alpglow::embree;
using namespace alpglow::feel;
using namespace alpglow::stage;
