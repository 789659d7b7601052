import { describe, expect, test } from 'vitest';
import { entranceOf, entrancePage, safeTarget } from './entrance.mjs';

describe('wrong tries', () => {
  let now = 0;
  const entrance = () => entranceOf({ token: 'tea time', port: 4400, now: () => now });

  test('of an address are slowed down, each further one twice as long, up to a minute', () => {
    const { isToken, waitOf } = entrance();
    for (const wait of [0, 0, 0, 1_000, 2_000, 4_000, 8_000, 16_000, 32_000, 60_000, 60_000]) {
      expect(isToken('coffee time', '192.0.2.7')).toBe(false);
      expect(waitOf('192.0.2.7')).toBe(wait);
      now += wait;
      expect(waitOf('192.0.2.7')).toBe(0);
    }
  });

  test('of others hold up nobody; one household of IPv6, and one address in both spellings, are one', () => {
    const { isToken, waitOf } = entrance();
    for (let i = 0; i < 5; i++) isToken('', '2001:db8:1:2::1');
    for (let i = 0; i < 5; i++) isToken('', '::ffff:192.0.2.7');
    expect(waitOf('2001:db8:1:2:ffff::9')).toBeGreaterThan(0);
    expect(waitOf('2001:db8:1:3::1')).toBe(0);
    expect(waitOf('192.0.2.7')).toBeGreaterThan(0);
    expect(waitOf('192.0.2.8')).toBe(0);
  });

  test('are forgotten with the right token, and after a quarter of an hour', () => {
    const { isToken, waitOf } = entrance();
    for (let i = 0; i < 9; i++) isToken('x', 'a');
    expect(isToken('tea time', 'a')).toBe(true);
    expect(waitOf('a')).toBe(0);
    for (let i = 0; i < 9; i++) isToken('x', 'a');
    now += 15 * 60_000 + 1;
    isToken('x', 'a');
    expect(waitOf('a')).toBe(0);
  });
});

test('a token of the same length, or one that begins alike, is not the token; nor is a cookie', () => {
  const { isToken, isPass, givenCookie } = entranceOf({ token: 'tea time', port: 4400 });
  for (const [i, wrong] of ['tea timf', 'uea time', 'tea_time', 'tea time ', 'tea tim', 'TEA TIME'].entries())
    expect(isToken(wrong, `192.0.2.${i}`)).toBe(false);
  expect(isToken('tea time', '192.0.2.9')).toBe(true);
  const given = /^[^;]*/.exec(givenCookie)![0];
  const last = given.at(-1) === 'A' ? 'B' : 'A';
  expect([given, `${given.slice(0, -1)}${last}`, given.slice(0, -1), `${given}A`].map(isPass)).toEqual([
    true,
    false,
    false,
    false,
  ]);
});

test('the cookie does not hold the token, and lets nobody into a server with another one', () => {
  const one = entranceOf({ token: 'tea time', port: 4400 });
  const other = entranceOf({ token: 'coffee time', port: 4400 });
  const given = (entrance: typeof one) => /^[^;]*/.exec(entrance.givenCookie)![0];
  expect(one.givenCookie).toMatch(/; HttpOnly; SameSite=Strict; Path=\/;/);
  expect(one.givenCookie).not.toContain('tea');
  expect([one.isPass(given(one)), one.isPass(given(other)), one.isPass(''), one.isPass('bold-ruler-4400=')]).toEqual([
    true,
    false,
    false,
    false,
  ]);
});

test('it leads on within this server only, and its page holds no markup of others', () => {
  for (const to of ['//elsewhere.example', '/\\elsewhere.example', 'http://elsewhere.example', '', '/a\nb'])
    expect(safeTarget(to)).toBe('/');
  expect(safeTarget('/report/x?at=1#2')).toBe('/report/x?at=1#2');
  expect(entrancePage({ to: '/"><script>' })).not.toContain('<script>');
});
