import { instrumentStatus } from '../../core/records';
import type { StatusAnswer, StatusRequest } from './messages';

self.onmessage = ({ data }: MessageEvent<StatusRequest>) => {
  self.postMessage({ id: data.id, statuses: instrumentStatus(data.life, data.wish) } satisfies StatusAnswer);
};
