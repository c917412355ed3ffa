import localforage from 'localforage';
import { inWords } from '../ui/in-words';

/**
 * How long the browser's database may take for one answer before it counts as not answering: so many turns of the page's
 * own clock. Where the machine is busy, the page's turns come late too, and the database gets longer.
 */
const PATIENCE = { turns: 12, turnMs: 500 };

/** What the browser's database could not do, in words for the writer. */
class StorageProblem extends Error {}

function reasonOf(problem: unknown): string {
  if (problem instanceof StorageProblem) return problem.message;
  const name = problem instanceof Error ? problem.name : '';
  const text = inWords(problem);
  if (name === 'QuotaExceededError' || /quota/i.test(text)) return 'the browser’s storage is full';
  if (name === 'SecurityError' || /no available storage method|denied|insecure/i.test(text))
    return 'the browser does not let this page store anything';
  return `the browser’s storage does not work (${text})`;
}

/** The work's answer, or a problem in words where it fails or takes too long. */
async function answered<T>(work: () => Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    const wait = (turns: number): void => {
      timer = setTimeout(() => {
        if (turns > 1) wait(turns - 1);
        else reject(new StorageProblem('the browser’s storage does not answer'));
      }, PATIENCE.turnMs);
    };
    wait(PATIENCE.turns);
  });
  try {
    return await Promise.race([work(), late]);
  } catch (problem) {
    throw new StorageProblem(reasonOf(problem));
  } finally {
    clearTimeout(timer);
  }
}

/**
 * One store of the browser's own database. It never falls back to another kind of storage, which would be empty and
 * would hide what is kept; every failure comes as a `StorageProblem` in words.
 */
export class Database {
  private readonly store: LocalForage;

  constructor(name: 'songs' | 'shelf' | 'sounds') {
    this.store = localforage.createInstance({ name: 'fendro', storeName: name, driver: localforage.INDEXEDDB });
  }

  get(key: string): Promise<unknown> {
    return answered(() => this.store.getItem<unknown>(key));
  }

  async set(key: string, value: unknown): Promise<void> {
    await answered(() => this.store.setItem(key, value));
  }

  remove(key: string): Promise<void> {
    return answered(() => this.store.removeItem(key));
  }

  keys(): Promise<string[]> {
    return answered(() => this.store.keys());
  }
}
