import { combine, difference, tidy, type Decimals } from '../number';

/** A member's value and quantity, now and before; blank where it was not there. */
export interface ValueAndQuantity {
  readonly name: string;
  readonly value: number;
  readonly quantity: number;
  readonly valueBefore: number;
  readonly quantityBefore: number;
}

/** What of a change in value comes from quantity, price, mix, and from members that are new or gone. */
export interface PriceVolumeMix {
  readonly volume: number;
  readonly price: number;
  readonly mix: number;
  readonly new: number;
  readonly gone: number;
}

/**
 * Price–volume–mix over members that are on both sides, with prices p = value ÷ quantity, quantities q and their sums Q:
 * volume = (Q₁ − Q₀) · V₀ ÷ Q₀, price = Σ q₁ (p₁ − p₀), mix = what is left of the gap, Q₁ · Σ (q₁/Q₁ − q₀/Q₀) p₀.
 * All five add up to the gap exactly.
 */
export function priceVolumeMix(members: readonly ValueAndQuantity[], decimals: Decimals): PriceVolumeMix {
  const add = (some: readonly number[]) => some.reduce((sum, value) => combine(sum, value, decimals), 0);
  const there = (value: number, quantity: number) => !Number.isNaN(value) && quantity > 0;
  const both = members.filter((m) => there(m.value, m.quantity) && there(m.valueBefore, m.quantityBefore));
  const rest = members.filter((m) => !both.includes(m));
  const isNew = (m: ValueAndQuantity) => !there(m.valueBefore, m.quantityBefore);
  const gained = add(rest.filter(isNew).map((m) => difference(orZero(m.value), orZero(m.valueBefore), decimals)));
  const lost = add(
    rest.filter((m) => !isNew(m)).map((m) => difference(orZero(m.value), orZero(m.valueBefore), decimals)),
  );
  const [now, before] = [
    both.reduce((sum, m) => sum + m.quantity, 0),
    both.reduce((sum, m) => sum + m.quantityBefore, 0),
  ];
  const valueBefore = add(both.map((m) => m.valueBefore));
  const gap = difference(add(both.map((m) => m.value)), valueBefore, decimals);
  const held = (value: number) =>
    decimals === null ? tidy(value) : Math.round(value * 10 ** decimals) / 10 ** decimals;
  const volume = before === 0 ? 0 : held(((now - before) * valueBefore) / before);
  const price = held(both.reduce((sum, m) => sum + m.value - (m.quantity * m.valueBefore) / m.quantityBefore, 0));
  // What rounding to the smallest unit leaves goes to the mix, so that the sum is exact.
  return {
    volume,
    price,
    mix: difference(difference(gap, volume, decimals), price, decimals),
    new: gained,
    gone: lost,
  };
}

const orZero = (value: number) => (Number.isNaN(value) ? 0 : value);
