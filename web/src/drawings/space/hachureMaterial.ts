import { ShaderMaterial, Color, DoubleSide } from 'three'
import { ON_ROLE, type Palette } from '../../theme/palette'

const VERTEX = /* glsl */ `
varying vec3 vPlace;
void main() {
  vPlace = position;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`

// The face normal comes from the derivatives of the place: flat shading without a normal per vertex.
const FRAGMENT = /* glsl */ `
uniform vec3 body;
uniform vec3 ink;
uniform float limits[8];
uniform vec3 light;
uniform float top;
varying vec3 vPlace;
const float HALF_TURN = 3.14159265;
// The limit of the side that a face looks to: sides go clockwise from north (+y), between two of them a share
// of both.
float limitTowards(vec3 n) {
  float bearing = mod(atan(n.x, n.y) / HALF_TURN * 4.0 + 8.0, 8.0);
  float share = fract(bearing);
  int at = int(floor(bearing)) % 8;
  return mix(limits[at], limits[(at + 1) % 8], share);
}
void main() {
  // Cut at a height.
  if (vPlace.z > top) discard;
  vec3 n = normalize(cross(dFdx(vPlace), dFdy(vPlace)));
  if (!gl_FrontFacing) n = -n;
  vec3 view = normalize(cameraPosition - vPlace);
  if (dot(n, view) < 0.0) n = -n;
  float lit = 0.8 + 0.2 * dot(n, normalize(light)) + 0.04 * n.z;
  vec3 colour = body * lit;
  float lean = asin(clamp(-n.z, -1.0, 1.0)) * 180.0 / HALF_TURN;
  // What lies on the bed leans all the way, yet needs nothing.
  bool onBed = vPlace.z < 0.05;
  float limit = limitTowards(n);
  if (lean > limit && !onBed) {
    float past = clamp((lean - limit) / max(1.0, 90.0 - limit), 0.0, 1.0);
    float period = mix(2.4, 1.5, past);
    float across = (vPlace.x + vPlace.y) * 0.7071;
    float along = (vPlace.x - vPlace.y) * 0.7071 + 0.6 * vPlace.z;
    float row = floor(across / period);
    float share = abs(fract(across / period) - 0.5) * 2.0;
    float soften = fwidth(across) / period * 2.0;
    float width = mix(0.16, 0.46, past);
    float stroke = 1.0 - smoothstep(width - soften, width + soften, share);
    // Strokes break off here and there, as they would from a pen.
    float dash = fract(along / 11.0 + row * 0.37);
    stroke *= smoothstep(0.02, 0.10, dash) * (1.0 - smoothstep(0.86, 0.94, dash));
    // Too far away to tell strokes apart, their average remains.
    float far = smoothstep(0.5, 1.4, soften);
    colour = mix(colour, ink, mix(stroke, width * 0.8, far));
  }
  gl_FragColor = vec4(colour, 1.0);
  #include <colorspace_fragment>
}`

/**
 * Surface of a part: quiet body colour, and hachure strokes on whatever leans past the limit of its side, the
 * steeper the denser.
 */
export function hachureMaterial(palette: Palette): ShaderMaterial {
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    side: DoubleSide,
    uniforms: {
      body: { value: new Color(palette.part) },
      ink: { value: new Color(ON_ROLE) },
      limits: { value: new Array<number>(8).fill(90) },
      top: { value: 1e9 },
      light: { value: [0.4, -0.7, 0.6] },
    },
  })
}
