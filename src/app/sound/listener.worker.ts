import { createListening } from './listening';
import type { ToListener } from './messages';

const hear = createListening((message) => self.postMessage(message));
self.onmessage = ({ data }: MessageEvent<ToListener>) => hear(data);
