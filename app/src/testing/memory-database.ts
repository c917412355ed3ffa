/** The browser's database in memory, in place of the package that reaches it: `jest.mock('localforage', …)`. */
export const values = new Map<string, unknown>();

export const memoryDatabase = () => ({
  __esModule: true,
  default: {
    INDEXEDDB: 'indexeddb',
    createInstance: () => ({
      getItem: (key: string) => Promise.resolve(values.get(key) ?? null),
      setItem: (key: string, value: unknown) => Promise.resolve(values.set(key, value)),
      removeItem: (key: string) => Promise.resolve(values.delete(key)),
      keys: () => Promise.resolve([...values.keys()]),
    }),
  },
});
