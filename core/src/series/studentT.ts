/** ln Γ(x) for x > 0 (Lanczos approximation, g = 7, n = 9), to about 15 digits. */
function logGamma(x: number): number {
  const c = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  const z = x - 1;
  let sum = c[0]!;
  for (let i = 1; i < 9; i++) sum += c[i]! / (z + i);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** The regularized incomplete beta function Iₓ(a, b), by its continued fraction (Lentz's method). */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  // The fraction converges fast on one side of the mean only.
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(a * Math.log(x) + b * Math.log(1 - x) + logGamma(a + b) - logGamma(a) - logGamma(b)) / a;
  const TINY = 1e-300;
  let c = 1;
  let d = 1 - ((a + b) * x) / (a + 1);
  d = 1 / (Math.abs(d) < TINY ? TINY : d);
  let fraction = d;
  for (let m = 1; m <= 400; m++) {
    for (const term of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 + term * d;
      d = 1 / (Math.abs(d) < TINY ? TINY : d);
      c = 1 + term / c;
      if (Math.abs(c) < TINY) c = TINY;
      fraction *= c * d;
    }
    if (Math.abs(c * d - 1) < 1e-15) break;
  }
  return front * fraction;
}

/** P(T ≤ t) of Student's distribution with ν degrees of freedom. */
export function studentCdf(t: number, degrees: number): number {
  const tail = 0.5 * incompleteBeta(degrees / (degrees + t * t), degrees / 2, 0.5);
  return t > 0 ? 1 - tail : tail;
}

/** The t with P(|T| ≤ t) = level, as for an interval that holds `level` of the cases. */
export function studentBoth(level: number, degrees: number): number {
  const wanted = (1 + level) / 2;
  let low = 0;
  let high = 1;
  while (studentCdf(high, degrees) < wanted && high < 1e12) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-14 * high; i++) {
    const middle = (low + high) / 2;
    if (studentCdf(middle, degrees) < wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
