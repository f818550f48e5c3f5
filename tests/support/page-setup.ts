import { afterAll } from 'vitest';

import { closePage } from './page.tsx';

// files share a process: none finds another's page or globals
afterAll(closePage);
