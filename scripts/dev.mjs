// npm run dev: the application over its sources, loaded again as they change, on http://localhost:4400 (another port with PORT).
import { demo, install, notices, program, run } from './ready.mjs';

install();
demo();
program();
notices();
run('npx', ['next', 'dev', 'web', '--hostname', '127.0.0.1', '--port', process.env.PORT ?? '4400']);
