#pragma once
// Everything at once; each header also stands alone. The rooms are in the order in which they may include each other.
//
// base/angles                 degrees and radians by name; wrapping; the short way round
// base/limits                 which positions, times and aspects count as legal
// base/span                   a view of values that somebody else owns
// base/state                  a state in bytes, with what is legal for each field
// base/saved_state            a whole state as bytes to send, store and compare
// base/stored_vector          vectors and rotations as trivially copyable storage
// base/rotation               of a camera by yaw, pitch and roll; as vectors
// base/axes                   the host's own axes and units
// base/half_life              exact exponential smoothing
// base/log_scales             logarithms in which distances and lenses blend evenly
// base/transition             to a live target with least jerk, interruptible
// base/curve                  a number over another, monotone between its points
// base/capped_approach        by half-life and never faster than a cap; easing in
// base/setting                the description of one setting
//
// input/action                what a player can want
// input/control               the physical things that move, by name
// input/stick                 dead zone and response; triggers
// input/bindings              which controls drive which actions, by mode
// input/blocks                named reasons that stop look, zoom or movement
// input/preferences           the player's own numbers
// input/intent                displacement and rate, as timed samples
// input/intent_player         playing an intent over a frame
// input/movement              a direction on the ground for a heading
// input/touch                 zones, drag and pinch
// input/player_controls       one player's devices to actions and one intent
//
// look/turn_rate              an angle turned at an eased rate between limits
// look/look                   pointer counts and turn rates to yaw and pitch
// look/glance                 looking around while the heading stays
//
// follow/reference_frame      what a subject stands on; up; scale
// follow/subject              the character as it is drawn
// follow/follow               exact lag on a leash
// follow/rest_zone            where a subject may move before it is followed
// follow/frame_follow         following on what moves, getting on and off, lead
// follow/history              what ticks say of what is drawn between them
// follow/head_bob             of walking, by distance
// follow/head_motion          bob, dip of a landing, breathing
//
// framing/lens                field of view, however one says it
// framing/orbit_distance      the zoomed distance
// framing/framing             one way to sit relative to the subject
// framing/flight              how a camera flies that has no subject
// framing/group_fit           where a camera holds several, and how wide its lens must be
// framing/regions             where in a level conditions hold
// framing/shown_framing       a framing as it is shown at one moment
// framing/framing_curves      numbers of a framing that are curves
// framing/framing_blend       a blend between framings
// framing/aim_point           which look keeps a point under the crosshair
// framing/pose_course         how a framing's pose would go on by itself
// framing/kept_aim            keeping it there through a change
//
// space/bounds                a box along the axes
// space/boxes_of_four        four boxes side by side
// space/obstacles             what the core asks the host's world
// space/guarded_obstacles     a host's world whose answers have been checked
// space/sphere_triangle       exact first contact of a sphere and a triangle
// space/shapes                shapes: how near, where a moving sphere touches, where a ray meets
// space/height_field          the triangles of a height field
// space/convex_sweep          a moving sphere against anything convex
// space/surroundings          a world that lists what is near
// space/first_contact         the first contact among shapes that are handed over
// space/look_past             large things: looked past, kept out of, faded
// space/without               a world without some things, such as the own body
// space/neighbourhood         what was listed for this frame, and all questions answered from it
// space/triangle_mesh         triangles in memory, with a tree
// space/assembly              several surroundings, each where it is placed
// space/ease_out              a limit that shortens at once and lengthens gently
// space/pull_in_settings      how a camera comes in before walls and goes out again
// space/rigid_motion          how doors, lifts and vehicles move, and where that takes them
// space/clear_line            the clear part of the line from the head to the camera
// space/ahead                 what the camera asks of clear space, and what it will ask
// space/come_in               how fast a length must shorten so that it is short enough in time
// space/go_out                when and how fast it grows again
// space/give_way              what is given up where that keeps more distance: the shoulder, the height
// space/pull_in               the distance to the camera, in early and out again
//
// view/projection             clip spaces
// view/view                   where the camera is, where it looks, through which lens
// view/stored_view            a view inside a state
// view/last_view              the last good view, where the new one has a bad number
// view/steadying              what is looked at stays put while the head bobs
// view/sway                   of the hand that holds a scope
// view/shake                  what a host adds on top, kept clear of walls
// view/unrest                 a living hand holds the camera
// view/push                   short displacements by the game: recoil, a landing
// view/explanation            why the camera is where it is, for people and programs
// view/fading                 what hides a subject is drawn less
// view/hiding                 what stands between an eye and a body
// view/debug_draw             a camera drawn from outside
// view/hand_aim               what a shot from the hand meets instead
// view/view_transition        from one view to another
//
// assist/guide                the game turns the look, and the player keeps a share
// assist/free_shoulder        over to the other shoulder where this one is against a wall
// assist/idle_drift           the orbit goes round by itself while nobody does anything
// assist/swing_back           turning back behind the subject by itself
// assist/target               targets and their ranking
// assist/lock_on              subject and target both on the screen
//
// design/design               all tunable numbers, plain and compiled
// design/settings             one description of every setting
// design/when                 when a framing applies
//
// camera/active_framing       which framing applies, and how it is shown
// camera/subject_tracker      the subject as followed, and where it will be
// camera/view_angles          look, glance, sway and steadying
// camera/assists              swinging back and lock on
// camera/aim_keeper           the crosshair, kept on its point
// camera/placement            clear space, and the eyes taking over in it
// camera/report               the last view, events and faults
// camera/character_camera     the composition: the camera of one character
// camera/update_many          one frame of many cameras
// camera/standing_camera      a camera that stands
// camera/flying_camera        a camera that flies
// camera/group_camera         several in one picture
// camera/shot_search          a still shot of two things from a clear place
// camera/inspection           a thing in the hand

#include "alpglow/assist/free_shoulder.hpp"
#include "alpglow/assist/guide.hpp"
#include "alpglow/assist/idle_drift.hpp"
#include "alpglow/assist/lock_on.hpp"
#include "alpglow/assist/swing_back.hpp"
#include "alpglow/assist/target.hpp"
#include "alpglow/base/angles.hpp"
#include "alpglow/base/axes.hpp"
#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/curve.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/log_scales.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/base/saved_state.hpp"
#include "alpglow/base/setting.hpp"
#include "alpglow/base/span.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/base/transition.hpp"
#include "alpglow/base/version.hpp"
#include "alpglow/camera/active_framing.hpp"
#include "alpglow/camera/aim_keeper.hpp"
#include "alpglow/camera/assists.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/flying_camera.hpp"
#include "alpglow/camera/group_camera.hpp"
#include "alpglow/camera/inspection.hpp"
#include "alpglow/camera/placement.hpp"
#include "alpglow/camera/report.hpp"
#include "alpglow/camera/shot_search.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "alpglow/camera/subject_tracker.hpp"
#include "alpglow/camera/update_many.hpp"
#include "alpglow/camera/view_angles.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/design/settings.hpp"
#include "alpglow/design/when.hpp"
#include "alpglow/follow/follow.hpp"
#include "alpglow/follow/frame_follow.hpp"
#include "alpglow/follow/head_bob.hpp"
#include "alpglow/follow/head_motion.hpp"
#include "alpglow/follow/history.hpp"
#include "alpglow/follow/reference_frame.hpp"
#include "alpglow/follow/rest_zone.hpp"
#include "alpglow/follow/subject.hpp"
#include "alpglow/framing/aim_point.hpp"
#include "alpglow/framing/flight.hpp"
#include "alpglow/framing/framing.hpp"
#include "alpglow/framing/framing_blend.hpp"
#include "alpglow/framing/framing_curves.hpp"
#include "alpglow/framing/group_fit.hpp"
#include "alpglow/framing/kept_aim.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/framing/orbit_distance.hpp"
#include "alpglow/framing/pose_course.hpp"
#include "alpglow/framing/regions.hpp"
#include "alpglow/framing/shown_framing.hpp"
#include "alpglow/input/action.hpp"
#include "alpglow/input/bindings.hpp"
#include "alpglow/input/blocks.hpp"
#include "alpglow/input/control.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/input/intent_player.hpp"
#include "alpglow/input/movement.hpp"
#include "alpglow/input/player_controls.hpp"
#include "alpglow/input/preferences.hpp"
#include "alpglow/input/stick.hpp"
#include "alpglow/input/touch.hpp"
#include "alpglow/look/glance.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/look/turn_rate.hpp"
#include "alpglow/space/ahead.hpp"
#include "alpglow/space/assembly.hpp"
#include "alpglow/space/bounds.hpp"
#include "alpglow/space/boxes_of_four.hpp"
#include "alpglow/space/clear_line.hpp"
#include "alpglow/space/come_in.hpp"
#include "alpglow/space/convex_sweep.hpp"
#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/first_contact.hpp"
#include "alpglow/space/give_way.hpp"
#include "alpglow/space/go_out.hpp"
#include "alpglow/space/guarded_obstacles.hpp"
#include "alpglow/space/height_field.hpp"
#include "alpglow/space/look_past.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/space/pull_in.hpp"
#include "alpglow/space/pull_in_settings.hpp"
#include "alpglow/space/rigid_motion.hpp"
#include "alpglow/space/shapes.hpp"
#include "alpglow/space/sphere_triangle.hpp"
#include "alpglow/space/surroundings.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "alpglow/space/without.hpp"
#include "alpglow/view/debug_draw.hpp"
#include "alpglow/view/explanation.hpp"
#include "alpglow/view/fading.hpp"
#include "alpglow/view/hand_aim.hpp"
#include "alpglow/view/hiding.hpp"
#include "alpglow/view/last_view.hpp"
#include "alpglow/view/projection.hpp"
#include "alpglow/view/push.hpp"
#include "alpglow/view/shake.hpp"
#include "alpglow/view/steadying.hpp"
#include "alpglow/view/stored_view.hpp"
#include "alpglow/view/sway.hpp"
#include "alpglow/view/unrest.hpp"
#include "alpglow/view/view.hpp"
#include "alpglow/view/view_transition.hpp"
