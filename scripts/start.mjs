// npm start: installs, builds and starts the application on a data folder of one's own.
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import { build, install, say, serve } from './steps.mjs';

await install();
await build();
const asked = process.argv.indexOf('--data');
if (asked > 0 && !process.argv[asked + 1]) {
  say('Write the folder after --data, such as npm start -- --data ~/books.');
  process.exit(2);
}
const from = process.env.INIT_CWD ?? process.cwd();
const data = asked > 0 ? resolve(from, process.argv[asked + 1]) : (process.env.WISE_MARGIN_DATA ?? join(homedir(), 'wise-margin'));
serve(data);
