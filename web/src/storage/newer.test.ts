import 'fake-indexeddb/auto';
import { expect, test } from 'vitest';
import { stored } from './db';

test('a storage that a newer version has laid out is neither read nor written, after a reload either', async () => {
  const newer = await new Promise<IDBDatabase>((done) => {
    const asked = indexedDB.open('bold-ruler', 9999);
    asked.onupgradeneeded = () =>
      asked.result.createObjectStore('reports', { keyPath: 'id' }).put({ id: 'r', kept: 'so' });
    asked.onsuccess = () => done(asked.result);
  });
  newer.close();
  for (let tries = 0; tries < 2; tries++)
    await expect(stored((db) => db.reports.put({ id: 'r' } as never))).rejects.toThrow('a newer version of Bold Ruler');
  const left = await new Promise<unknown[]>((done) => {
    const asked = indexedDB.open('bold-ruler');
    asked.onsuccess = () => {
      const all = asked.result.transaction('reports').objectStore('reports').getAll();
      all.onsuccess = () => done([asked.result.version, ...(all.result as unknown[])]);
    };
  });
  expect(left).toEqual([9999, { id: 'r', kept: 'so' }]);
});
