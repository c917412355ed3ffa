/** Small things that the browser keeps at once, by name. */
interface Memory {
  get(name: string): string | null;
  /** @returns false where it could not be kept */
  set(name: string, value: string): boolean;
  remove(name: string): void;
  /** Every name that something is kept under. */
  names(): string[];
}

/** Where the browser lets this page store nothing, things are forgotten with the page instead of stopping it. */
const memoryIn = (storage: () => Storage): Memory => ({
  get(name) {
    try {
      return storage().getItem(name);
    } catch {
      return null;
    }
  },
  set(name, value) {
    try {
      storage().setItem(name, value);
      return true;
    } catch {
      return false;
    }
  },
  remove(name) {
    try {
      storage().removeItem(name);
    } catch {
      // What cannot be reached cannot be kept either.
    }
  },
  names() {
    try {
      return Object.keys(storage());
    } catch {
      return [];
    }
  },
});

/** What every tab sees, and finds again after the browser was closed. */
export const pageMemory = memoryIn(() => localStorage);
/** What this tab finds again after a reload. */
export const tabMemory = memoryIn(() => sessionStorage);
