#pragma once
// The dusk: shaders for the sky with its ridges, for everything solid, and for the shadows.

namespace alpglow::stage::shaders {

inline const char* const skyVertex = R"(#version 330 core
uniform mat4 clipToWorld;   // directions
out vec3 direction;
void main() {
  vec2 corner = vec2(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0);
  vec4 farPlane = clipToWorld * vec4(corner, 1.0, 1.0);
  direction = farPlane.xyz / farPlane.w;
  gl_Position = vec4(corner, 1.0, 1.0);
}
)";

// Comes first in the fragment shaders of sky and solids, so that far things fade into exactly the sky behind them.
inline const char* const skyColour = R"(#version 330 core
vec3 skyColour(vec3 d, vec3 sun) {
  float up = max(d.y, 0.0);
  float toward = 0.5 + 0.5 * dot(normalize(vec3(d.x, 0.0, d.z) + 1e-5), normalize(vec3(sun.x, 0.0, sun.z)));
  vec3 horizon = mix(vec3(0.62, 0.45, 0.56), vec3(1.0, 0.62, 0.38), toward * toward);
  vec3 middle = mix(vec3(0.42, 0.44, 0.66), vec3(0.66, 0.52, 0.62), toward);
  vec3 zenith = vec3(0.16, 0.22, 0.42);
  vec3 c = mix(horizon, middle, smoothstep(0.0, 0.22, up));
  return mix(c, zenith, smoothstep(0.15, 0.85, up));
}
)";

inline const char* const skyFragment = R"(
uniform vec3 sun;
in vec3 direction;
out vec4 colour;
float ridge(float a, float seed) {
  float h = 0.0, w = 1.0;
  for (int i = 0; i < 6; ++i) {
    h += w * abs(sin(a * (2.0 + float(i) * float(i) * 1.7) + seed * float(i + 1)));
    w *= 0.52;
  }
  return h;
}
void main() {
  vec3 d = normalize(direction);
  vec3 c = skyColour(d, sun);
  float a = atan(d.x, d.z), elevation = d.y / length(d.xz);
  for (int layer = 0; layer < 2; ++layer) {
    float top = layer == 0 ? 0.03 + 0.085 * ridge(a, 1.3) : -0.01 + 0.05 * ridge(a + 1.9, 2.1);
    float edge = smoothstep(-0.0015, 0.0015, top - elevation);
    vec3 rock = layer == 0 ? mix(vec3(0.50, 0.40, 0.52), vec3(0.93, 0.56, 0.50), smoothstep(0.05, 0.17, elevation))
                           : vec3(0.33, 0.31, 0.43);
    c = mix(c, mix(rock, skyColour(vec3(d.x, 0.0, d.z), sun), layer == 0 ? 0.35 : 0.15), edge);
  }
  colour = vec4(pow(c, vec3(0.9)), 1.0);
}
)";

inline const char* const solidVertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
layout(location = 2) in vec3 colour;
layout(location = 3) in float glow;
uniform mat4 model, toClip, toLight;
out vec3 worldPosition, worldNormal, baseColour;
out vec4 lightPosition;
out float glowing;
void main() {
  vec4 world = model * vec4(position, 1.0);
  worldPosition = world.xyz;
  worldNormal = mat3(model) * normal;
  baseColour = colour;
  glowing = glow;
  lightPosition = toLight * vec4(world.xyz + 0.03 * worldNormal, 1.0);
  gl_Position = toClip * world;
}
)";

// Before it makes a program of what may fade.
inline const char* const fades = "\n#define FADES\n";

// The same without a graphics card: what can be is worked out at the corners, and the sky is a picture of it.
inline const char* const plainVertex = R"(
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
layout(location = 2) in vec3 colour;
layout(location = 3) in float glow;
layout(location = 4) in vec3 lantern;
uniform mat4 model, toClip, toLight;
uniform vec3 eye, sun;
out vec3 resting, sunny, hidden, lightPosition;
void main() {
  vec4 world = model * vec4(position, 1.0);
  vec3 n = mat3(model) * normal, away = world.xyz - eye;
  float fog = 1.0 - exp(-length(away) * 0.006);
  vec3 ambient = mix(vec3(0.30, 0.27, 0.31), vec3(0.46, 0.48, 0.66), 0.5 + 0.5 * n.y) + lantern;
  resting = colour * (1.0 - fog) * mix(ambient, vec3(1.6, 1.35, 1.0), glow);
  sunny = colour * (1.0 - fog) * (1.0 - glow) * max(dot(n, sun), 0.0) * vec3(0.86, 0.58, 0.40);
  hidden = fog * skyColour(normalize(vec3(away.x, 0.06 * length(away), away.z)), sun);
  vec4 lit = toLight * vec4(world.xyz + 0.03 * n, 1.0);
  lightPosition = lit.xyz / lit.w * 0.5 + 0.5 - vec3(0.0, 0.0, 0.0012);
  gl_Position = toClip * world;
}
)";

inline const char* const plainFragment = R"(
#ifdef FADES
uniform float opacity;
#endif
uniform sampler2DShadow shadows;
in vec3 resting, sunny, hidden, lightPosition;
out vec4 result;
void main() {
#ifdef FADES
  if (opacity < 1.0 && fract(dot(floor(gl_FragCoord.xy), vec2(0.7548776662, 0.5698402909))) >= opacity) discard;
#endif
  vec3 c = resting + sunny * texture(shadows, lightPosition);
  c = c / (1.0 + 0.18 * c) + hidden;
  result = vec4(mix(c, sqrt(c), 0.26), 1.0);
}
)";

// A side of a cube around the eye, and the sky as it was painted on it.
inline const char* const boxedSkyFragment = R"(#version 330 core
uniform samplerCube sky;
in vec3 direction;
out vec4 colour;
void main() { colour = texture(sky, direction); }
)";

inline const char* const solidFragment = R"(
uniform vec3 eye, sun;
uniform vec3 lanterns[16];
uniform int lanternCount;
uniform float gridStrength;
#ifdef FADES
uniform float opacity;
#endif
uniform sampler2DShadow shadows;
in vec3 worldPosition, worldNormal, baseColour;
in vec4 lightPosition;
in float glowing;
out vec4 result;
float line(float x, float width) {
  float pixel = fwidth(x);
  float nearPlane = abs(fract(x - 0.5) - 0.5);
  return (1.0 - smoothstep(width, width + pixel * 1.5, nearPlane)) * clamp(0.35 / max(pixel, 1e-4) * 0.1, 0.0, 1.0);
}
float grid(vec3 p, vec3 n) {
  vec3 a = abs(n);
  vec2 q = a.y > a.x && a.y > a.z ? p.xz : (a.x > a.z ? p.zy : p.xy);
  return max(line(q.x, 0.008), line(q.y, 0.008));
}
float lit() {
  vec3 q = lightPosition.xyz / lightPosition.w * 0.5 + 0.5;
  if (any(lessThan(q, vec3(0.0))) || any(greaterThan(q, vec3(1.0)))) return 1.0;
  // Four filtered samples, which together weigh four by four texels.
  const vec3 o = vec3(1.0, -1.0, 0.0) / 3072.0;
  q.z -= 0.0006;
  return 0.25 * (texture(shadows, q + o.xxz) + texture(shadows, q + o.xyz) + texture(shadows, q + o.yxz) +
                 texture(shadows, q + o.yyz));
}
void main() {
#ifdef FADES
  // As a screen door, so that nothing has to be sorted.
  if (opacity < 1.0 && fract(dot(floor(gl_FragCoord.xy), vec2(0.7548776662, 0.5698402909))) >= opacity) discard;
#endif
  vec3 n = normalize(worldNormal), p = worldPosition;
  float sunlight = dot(n, sun);
  sunlight = sunlight > 0.0 ? sunlight * lit() : 0.0;
  vec3 ambient = mix(vec3(0.30, 0.27, 0.31), vec3(0.46, 0.48, 0.66), 0.5 + 0.5 * n.y);
  vec3 light = ambient + sunlight * vec3(0.86, 0.58, 0.40);
  for (int i = 0; i < lanternCount; ++i) {
    vec3 to = lanterns[i] - p;
    float d2 = dot(to, to);
    float facing = 0.35 + 0.65 * max(dot(n, to) * inversesqrt(d2 + 1e-4), 0.0);
    light += vec3(1.0, 0.66, 0.30) * facing * 1.5 / (1.0 + 0.9 * d2);
  }
  vec3 c = baseColour * mix(light, vec3(1.6, 1.35, 1.0), glowing);
  c *= 1.0 - gridStrength * (1.0 - glowing) * 0.2 * grid(p, n);
  vec3 away = p - eye;
  float fog = 1.0 - exp(-length(away) * 0.006);
  c = mix(c, skyColour(normalize(vec3(away.x, 0.06 * length(away), away.z)), sun), fog);
  result = vec4(pow(c / (1.0 + 0.18 * c), vec3(0.88)), 1.0);
}
)";

inline const char* const shadowVertex = R"(#version 330 core
layout(location = 0) in vec3 position;
uniform mat4 model, toLight;
void main() {
  vec4 world = model * vec4(position, 1.0);
  gl_Position = toLight * world;
}
)";

inline const char* const shadowFragment = "#version 330 core\nvoid main() {}\n";

}  // namespace alpglow::stage::shaders
