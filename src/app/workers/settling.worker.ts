import { openStore } from '../database/database';
import { createAnalyst } from './analyst';
import type { ToSettling } from './messages';

const hear = createAnalyst({
  openStore,
  post: (answer) => self.postMessage(answer),
  later: (act) => setTimeout(act, 0),
});
self.onmessage = ({ data }: MessageEvent<ToSettling>) => hear(data);
