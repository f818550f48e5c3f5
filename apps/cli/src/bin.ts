import { run } from './main.ts';

// a reader that closes the pipe, such as head, has what it wanted
for (const stream of [process.stdout, process.stderr])
  stream.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error;
    process.exit(0);
  });
process.exitCode = await run(process.argv.slice(2), {
  out: (text) => void process.stdout.write(text),
  error: (text) => void process.stderr.write(text),
});
