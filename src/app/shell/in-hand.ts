import type { World } from '../world/database';
import { tabStore } from '../world/tab';

const keyOf = (world: World) => `in-hand/${world}`;

/** The instrument that was in hand last, in this tab. */
export const inHand = (world: World): string | null => tabStore.get(keyOf(world));
export const takeInHand = (world: World, instrumentId: string): void => tabStore.set(keyOf(world), instrumentId);
