import { heldInMemory } from './held';
import { useWorld } from './world';
import type { Draft } from '../../core/log';

/** Writes records and goes on; what the browser refused is said. */
export function useWriting(say: (sentence: string) => void) {
  const { append } = useWorld();
  return (drafts: Draft[], then: () => void, file?: string) =>
    append(drafts, file).then(then, (error: Error) => say(heldInMemory(error)));
}
