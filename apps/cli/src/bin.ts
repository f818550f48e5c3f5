import { run } from './main.ts';

process.exitCode = await run(process.argv.slice(2), {
  out: (text) => void process.stdout.write(text),
  error: (text) => void process.stderr.write(text),
});
