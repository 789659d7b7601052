import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

/** The production build in a folder, served on a port of its own. Throws where it does not start within four minutes. */
export async function serve(
  web: string,
  environment: Readonly<Record<string, string>> = {},
): Promise<{ url: string; stop: () => void }> {
  const port = await freePort();
  const server: ChildProcess = spawn(process.execPath, ['server.mjs'], {
    cwd: web,
    stdio: 'ignore',
    env: { ...process.env, ...environment, PORT: String(port), NEXT_TELEMETRY_DISABLED: '1' },
  });
  const url = `http://localhost:${port}`;
  for (let tries = 0; ; tries++) {
    try {
      // One that asks for its token is there, too.
      if ((await fetch(url)).status < 500) break;
    } catch {
      if (tries > 1200) {
        server.kill();
        throw new Error('the application did not start');
      }
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  return { url, stop: () => void server.kill() };
}
