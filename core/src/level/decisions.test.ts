import fc from 'fast-check';
import { expect, test } from 'vitest';
import { accepting } from '../report';
import { decisionsOf, finding, LEVEL_CHECKS, type Finding } from '.';
import { findingsOf, reportOf, type Made } from './level.fixture';

const amount = fc.option(
  fc.record({ of: fc.constant('net'), sum: fc.constant(1), share: fc.constantFrom(0, 0.1, 0.5, 3) }),
);
const FINDINGS = fc.array(
  fc
    .record({
      code: fc.constantFrom('zoomed', 'double-rows', 'constructor'),
      severity: fc.constantFrom('error' as const, 'warning' as const, 'note' as const),
      about: fc.record({
        kind: fc.constantFrom('figure' as const, 'table' as const),
        id: fc.constantFrom('a', 'b', 'c'),
      }),
      text: fc.constantFrom('it is so', 'it is otherwise'),
      amount,
      accepted: fc.constantFrom(null, 'as agreed'),
    })
    .map(({ accepted, code, ...said }): Finding => ({
      ...finding(reportOf({}), code, 'why', said),
      accepted,
      acceptedBy: accepted === null ? null : { code, about: said.about.kind, id: said.about.id },
    })),
  { maxLength: 12 },
);

test('every finding is in one decision, each fact once, what is wrong first, then what most hangs on', () => {
  fc.assert(
    fc.property(FINDINGS, (findings) => {
      const decisions = decisionsOf(findings);
      const fact = ({ code, severity, fact, table, accepted }: Omit<Finding, 'about' | 'acceptedBy' | 'repair'>) =>
        JSON.stringify([code, severity, fact, table, accepted]);
      expect(decisions.map(fact).sort()).toEqual([...new Set(findings.map(fact))].sort());
      for (const one of decisions) {
        const own = findings.filter((other) => fact(other) === fact(one));
        const ids = (places: readonly Pick<Finding, 'about'>[]) =>
          new Set(places.map(({ about }) => `${about.kind} ${about.id}`));
        expect(ids(one.places)).toEqual(ids(own));
        expect(one.places).toHaveLength(ids(own).size);
      }
      const open = decisions.filter(({ accepted }) => accepted === null);
      expect(decisions.slice(0, open.length)).toEqual(open);
      const errors = open.filter(({ severity }) => severity === 'error').length;
      expect(open.slice(0, errors).every(({ severity }) => severity === 'error')).toBe(true);
      const shares = open.slice(errors).map((one) => one.amount?.share ?? -1);
      expect(shares).toEqual([...shares].sort((a, b) => b - a));
    }),
  );
});

test('what is accepted for the report is accepted in every figure, and no other fact is', async () => {
  const codes = LEVEL_CHECKS.map(({ code }) => code);
  expect(codes).toContain('not-from-zero');
  const made: Made = { look: { domain: [50, 400] } };
  const base = reportOf(made);
  const two = { ...base, figures: [...base.figures, { ...base.figures[0]!, id: 'g' }] };
  const [found, other] = (await findingsOf(two, made)).filter(({ code }) => code === 'not-from-zero');
  expect([found!.about.id, other!.about.id]).toEqual(['f', 'g']);
  expect(other!.fact).toBe(found!.fact);
  const standing = async (id: string, about: 'report' | 'figure') =>
    (await findingsOf(accepting(two, { code: 'not-from-zero', about, id }, 'known'), made)).flatMap((one) =>
      one.code === 'not-from-zero' && one.accepted === null ? [one.about.id] : [],
    );
  expect(await standing(found!.fact, 'report')).toEqual([]);
  expect(await standing('another fact', 'report')).toEqual(['f', 'g']);
  expect(await standing('f', 'figure')).toEqual(['g']);
});

test('an acceptance of one of several facts of a table leaves the others open', () => {
  const said = { severity: 'note' as const, about: { kind: 'table' as const, id: 'orders' }, text: 'unclear' };
  const accepted = accepting(
    reportOf({}),
    { code: 'reading-unclear', about: 'table', id: 'orders', fact: 'day' },
    'day first',
  );
  const reason = (fact: string) => finding(accepted, 'reading-unclear', 'why', { ...said, fact }).accepted;
  expect([reason('day'), reason('due')]).toEqual(['day first', null]);
  const whole = accepting(accepted, { code: 'reading-unclear', about: 'table', id: 'orders' }, 'all of them');
  expect(finding(whole, 'reading-unclear', 'why', { ...said, fact: 'due' }).accepted).toBe('all of them');
  expect(accepting(whole, { code: 'reading-unclear', about: 'table', id: 'orders' }, null)).toEqual(accepted);
});
