import { test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { workspaceFor } from '../workspace';
import { agreesSlowly } from './slowly.fixture';

test('a second, slow calculation agrees in a thousand worlds: exact sums to the last digit, all else to 1e-9', () =>
  // The same thousand where it decides over a landing, others everywhere else.
  agreesSlowly(tries(150), (report, read) => workspaceFor(report, read)));
