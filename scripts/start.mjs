// npm start: everything from a fresh clone to the application with its demo report.
import { build, demo, install, run } from './ready.mjs';

const port = process.env.PORT ?? '4400';
if (!/^\d{1,5}$/.test(port) || Number(port) > 65535) {
  console.error(`PORT takes a port number, not “${port}”`);
  process.exit(2);
}
install();
demo();
build();
process.env.PORT = port;
run('npm', ['run', 'start', '-w', 'web']);
