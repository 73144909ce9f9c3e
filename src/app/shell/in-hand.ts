import { tabStore } from '../world/tab';
import type { StoreName } from '../store/database';

const keyOf = (world: StoreName) => `in-hand/${world}`;

/** The instrument that was in hand last, in this tab. */
export const inHand = (world: StoreName): string | null => tabStore.get(keyOf(world));
export const takeInHand = (world: StoreName, instrumentId: string): void => tabStore.set(keyOf(world), instrumentId);
