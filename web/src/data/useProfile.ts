import type { FieldsProfile } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer, type Answer } from '@/store/useAnswer';

/** What is known of a table; while another is looked at, nothing. */
export function useProfile(tableId: string | null): Answer<FieldsProfile> {
  const tables = useReport((state) => state.report!.tables);
  const version = useReport((state) => state.tablesVersion);
  const answer = useAnswer([tableId, tables, version], tableId === null ? null : (now) => desk().profile(now, tableId));
  return answer.of?.[0] === tableId ? answer : { value: null, problem: null, of: null, at: null, isFresh: false };
}
