import { pageWanted, writePageFile, type PageCommand } from '../page';
import { watchFiles } from '../watch';

export async function page(reportFile: string, pageId: string, options: PageCommand) {
  const wanted = pageWanted(options);
  const written = await writePageFile(reportFile, pageId, options.out, wanted);
  if (options.watch)
    await watchFiles([reportFile, ...written], () => writePageFile(reportFile, pageId, options.out, wanted));
}
