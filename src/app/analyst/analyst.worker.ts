import { createAnalyst } from './analyst';
import type { ToAnalyst } from './questions';
import { openStore } from '../store/database';

const hear = createAnalyst({
  openStore,
  post: (answer) => self.postMessage(answer),
  later: (act) => setTimeout(act, 0),
});
self.onmessage = ({ data }: MessageEvent<ToAnalyst>) => hear(data);
