import type { World } from '../database/database';

const keyOf = (world: World) => `in-hand/${world}`;

/** The instrument that was in hand last, in this tab. */
export const inHand = (world: World): string | null => sessionStorage.getItem(keyOf(world));
export const takeInHand = (world: World, instrumentId: string): void =>
  sessionStorage.setItem(keyOf(world), instrumentId);
