/** What a window remembers until it is closed; nothing beyond the page where the browser keeps nothing. */
import { useStorage, type RemovableRef, type StorageLike } from '@vueuse/core';

/** Even asking for it throws where storage is blocked. */
function ownStorage(): StorageLike {
  try {
    return window.sessionStorage;
  } catch {
    const kept = new Map<string, string>();
    return {
      getItem: (key) => kept.get(key) ?? null,
      setItem: (key, value) => void kept.set(key, value),
      removeItem: (key) => void kept.delete(key),
    };
  }
}

/** @param key of the storage @param usual what holds while nothing is remembered; fields that are missing come from it */
export const useWindowStorage = <Value extends string | number | object>(
  key: string,
  usual: Value,
): RemovableRef<Value> => useStorage<Value>(key, usual, ownStorage(), { mergeDefaults: true });
