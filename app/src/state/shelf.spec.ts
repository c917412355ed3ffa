import { DEFAULT_BRIEFS } from '@fendro/core/song/briefs';
import { copyOfStyle } from '@fendro/core/styles/style-text';
import { styleOf } from '@fendro/core/styles/styles';
import { Shelf } from './shelf';

const database = { values: new Map<string, unknown>(), full: false };
jest.mock('localforage', () => ({
  __esModule: true,
  default: {
    createInstance: () => ({
      getItem: (key: string) => Promise.resolve(JSON.parse(JSON.stringify(database.values.get(key) ?? null)) as unknown),
      setItem: (key: string, value: unknown) => {
        if (database.full) return Promise.reject(new Error('full'));
        database.values.set(key, JSON.parse(JSON.stringify(value)));
        return Promise.resolve(value);
      },
    }),
  },
}));

const settled = () => new Promise((resolve) => setTimeout(resolve));
const fresh = async (): Promise<Shelf> => { const shelf = new Shelf(); await settled(); return shelf; };
const phrase = (id: string) => ({ id, name: id, role: 'melody' as const, tonic: 0, scale: 'major', bar: 1920, length: 1920, notes: [{ start: 0, duration: 480, pitch: 60, velocity: 80 }], chords: [] });

beforeEach(() => {
  database.values.clear();
  database.full = false;
});

describe('the shelf', () => {
  it('has everything at once and after a reload', async () => {
    const shelf = await fresh();
    shelf.savePhrase(phrase('one'));
    shelf.savePhrase(phrase('two'));
    shelf.renamePhrase('one', 'Call');
    shelf.saveBrief({ name: 'Wild', role: 'melody', brief: DEFAULT_BRIEFS.melody });
    shelf.saveStyle(copyOfStyle(styleOf('soul'), 'style-1', 'Mine'), null);
    shelf.saveRhythm('own:x');
    shelf.saveScale('own:Fog: 1 b2 3 5 b7');
    shelf.toggleFavourite('p');
    expect(shelf.contents().phrases.map(({ name }) => name)).toEqual(['two', 'Call']);
    await settled();
    const again = await fresh();
    expect(again.contents()).toEqual(shelf.contents());
    expect(again.isFavourite('p')).toBe(true);
  });

  it('lets things go, and puts a changed style in place of the old one', async () => {
    const shelf = await fresh();
    shelf.savePhrase(phrase('one'));
    shelf.removePhrase('one');
    shelf.saveBrief({ name: 'Wild', role: 'melody', brief: DEFAULT_BRIEFS.melody });
    shelf.removeBrief(shelf.contents().briefs[0]!.id);
    shelf.saveStyle(copyOfStyle(styleOf('soul'), 'style-1', 'Mine'), null);
    shelf.saveStyle(copyOfStyle(styleOf('soul'), 'style-2', 'Mine, slower'), 'style-1');
    expect(shelf.contents().styles.map(({ id }) => id)).toEqual(['style-2']);
    shelf.removeStyle('style-2');
    shelf.toggleFavourite('p');
    shelf.toggleFavourite('p');
    expect(shelf.contents()).toMatchObject({ phrases: [], briefs: [], styles: [], favourites: [] });
  });

  it('reads what an older Fendro kept, and leaves out what is damaged rather than failing', async () => {
    database.values.set('shelf', { progressions: [], rhythms: ['own:y'], scales: [], favourites: ['q'] });
    expect((await fresh()).contents()).toMatchObject({ rhythms: ['own:y'], favourites: ['q'], phrases: [], briefs: [], styles: [] });
    database.values.set('shelf', 'nonsense');
    expect((await fresh()).contents().rhythms).toEqual([]);
  });

  it('says when it cannot keep something', async () => {
    const shelf = await fresh();
    database.full = true;
    shelf.savePhrase(phrase('one'));
    await settled();
    expect(shelf.problem()).toMatch(/could not be saved/);
    expect(shelf.contents().phrases).toHaveLength(1);
  });
});
