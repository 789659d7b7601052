// npm run dev: the application over its sources, loaded again as they change, on http://localhost:4400 (another port with PORT).
import { endWithNpm, ready } from './ready.mjs';

endWithNpm();
await ready(['install', 'demo', 'program', 'notices']);
process.env.BOLD_RULER_DEVELOPMENT = '1';
process.env.NODE_ENV = 'development';
process.env.NEXT_TELEMETRY_DISABLED = '1';
await import('../web/server.mjs');
