import { basename } from 'node:path';
import { profileTable } from '@bold-ruler/core/table';
import { readTablesIn } from '../files';
import { fieldsText } from '../fieldsText';
import { say } from '../say';
import { STANDARD } from '../write';
import { json } from './common';

export async function fields(file: string, options: { text?: true }) {
  const profiles = (await readTablesIn(file)).map(({ sheet, table }) => ({
    ...(sheet === undefined ? {} : { sheet }),
    ...profileTable(table, file === STANDARD ? 'standard input' : basename(file)),
  }));
  if (options.text) say(profiles.map(fieldsText).join('\n'));
  else json(profiles.length === 1 ? profiles[0] : profiles);
}
