/** Linear light of an sRGB colour, each part 0–1 (IEC 61966-2-1). */
type Light = readonly [r: number, g: number, b: number];

function lightOf(hex: string): Light {
  const part = (at: number) => {
    const c = parseInt(hex.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return [part(1), part(3), part(5)];
}

function hexOf(light: Light): string {
  const part = (c: number) => {
    const clipped = Math.min(1, Math.max(0, c));
    const v = clipped <= 0.0031308 ? clipped * 12.92 : 1.055 * clipped ** (1 / 2.4) - 0.055;
    return Math.round(v * 255)
      .toString(16)
      .padStart(2, '0');
  };
  return `#${light.map(part).join('')}`.toUpperCase();
}

/** Contrast of two colours, 1–21 (WCAG 2.2). */
export function contrast(a: string, b: string): number {
  const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p) as [number, number];
  return (x + 0.05) / (y + 0.05);
}

export const VISIONS = ['normal', 'protanopia', 'deuteranopia', 'tritanopia'] as const;
export type Vision = (typeof VISIONS)[number];

/** Linear-light matrices for full deficiency (Machado, Oliveira and Fernandes 2009). */
const DEFICIENCY: Readonly<Record<Exclude<Vision, 'normal'>, readonly number[]>> = {
  protanopia: [0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998],
  deuteranopia: [0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.01182, 0.04294, 0.968881],
  tritanopia: [1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.3039],
};

/** A colour as it is seen with that vision. */
export function seenWith(vision: Vision, hex: string): string {
  if (vision === 'normal') return hex.toUpperCase();
  const [r, g, b] = lightOf(hex);
  const m = DEFICIENCY[vision];
  return hexOf([0, 3, 6].map((row) => m[row]! * r + m[row + 1]! * g + m[row + 2]! * b) as unknown as Light);
}

/** CIE L*a*b* under D65. */
function labOf(hex: string): readonly [number, number, number] {
  const [r, g, b] = lightOf(hex);
  const f = (t: number) => (t > (6 / 29) ** 3 ? Math.cbrt(t) : t / (3 * (6 / 29) ** 2) + 4 / 29);
  const x = f((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047);
  const y = f(0.2126729 * r + 0.7151522 * g + 0.072175 * b);
  const z = f((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

/** How different two colours look: ΔE₀₀ (CIEDE2000; Sharma, Wu and Dalal 2005). About 1 is just noticed. */
export function difference2000(one: string, other: string): number {
  return difference2000Lab(labOf(one), labOf(other));
}

type Lab = readonly [L: number, a: number, b: number];

/** The same of two colours in L*a*b*. */
export function difference2000Lab([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const rad = Math.PI / 180;
  const meanC = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const g = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + 25 ** 7)));
  const [p1, p2] = [a1 * (1 + g), a2 * (1 + g)];
  const [c1, c2] = [Math.hypot(p1, b1), Math.hypot(p2, b2)];
  const hue = (a: number, b: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / rad + 360) % 360);
  const [h1, h2] = [hue(p1, b1), hue(p2, b2)];
  const grey = c1 * c2 === 0;
  let turn = h2 - h1;
  if (grey) turn = 0;
  else if (turn > 180) turn -= 360;
  else if (turn < -180) turn += 360;
  const [dl, dc] = [l2 - l1, c2 - c1];
  const dh = 2 * Math.sqrt(c1 * c2) * Math.sin((turn / 2) * rad);
  const [ml, mc] = [(l1 + l2) / 2, (c1 + c2) / 2];
  let mh = h1 + h2;
  if (!grey) {
    if (Math.abs(h1 - h2) <= 180) mh /= 2;
    else mh = mh < 360 ? (mh + 360) / 2 : (mh - 360) / 2;
  }
  const t =
    1 -
    0.17 * Math.cos((mh - 30) * rad) +
    0.24 * Math.cos(2 * mh * rad) +
    0.32 * Math.cos((3 * mh + 6) * rad) -
    0.2 * Math.cos((4 * mh - 63) * rad);
  const sl = 1 + (0.015 * (ml - 50) ** 2) / Math.sqrt(20 + (ml - 50) ** 2);
  const sc = 1 + 0.045 * mc;
  const sh = 1 + 0.015 * mc * t;
  const rc = 2 * Math.sqrt(mc ** 7 / (mc ** 7 + 25 ** 7));
  const rt = -Math.sin(60 * Math.exp(-(((mh - 275) / 25) ** 2)) * rad) * rc;
  return Math.sqrt((dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rt * (dc / sc) * (dh / sh));
}

/** A colour between two, in OKLab (Ottosson 2020). `share` 0 is the first, 1 the second. */
export function between(one: string, other: string, share: number): string {
  const [a, b] = [okOf(one), okOf(other)];
  return hexOfOk(a.map((value, i) => value + (b[i]! - value) * share) as unknown as Light);
}

function okOf(hex: string): Light {
  const [r, g, b] = lightOf(hex);
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

const hexOfOk = (ok: Light): string => hexOf(lightOfOk(ok));

function lightOfOk([L, a, b]: Light): Light {
  const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
}

/** Luminance of a colour, 0–1 (WCAG 2.2). */
export function luminance(hex: string): number {
  const [r, g, b] = lightOf(hex);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** The colour of that luminance nearest in hue and strength, as strong as a screen can show it. */
export function withLuminance(hex: string, wanted: number): string {
  const [, a, b] = okOf(hex);
  const inGamut = (light: Light) => light.every((part) => part >= -1e-4 && part <= 1 + 1e-4);
  let best = hex;
  // The greatest strength at which there is a colour so light.
  for (let share = 1; share >= 0; share -= 0.05) {
    let [low, high] = [0, 1];
    for (let i = 0; i < 24; i++) {
      const middle = (low + high) / 2;
      const [r, g, bl] = lightOfOk([middle, a * share, b * share]);
      if (0.2126 * r + 0.7152 * g + 0.0722 * bl < wanted) low = middle;
      else high = middle;
    }
    const light = lightOfOk([low, a * share, b * share]);
    best = hexOf(light);
    if (inGamut(light)) break;
  }
  return best;
}
