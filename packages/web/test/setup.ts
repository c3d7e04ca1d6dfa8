import { afterEach } from 'vitest';
import { forgetReplies } from '../src/api/queries.ts';

// Files share one process: what one test was replied is not there for the next.
afterEach(forgetReplies);
