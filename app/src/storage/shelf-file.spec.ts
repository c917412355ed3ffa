import { roleOf } from '@fendro/core/song/roles';
import { styleOf } from '@fendro/core/styles/styles';
import { allOf, readShelfFile, shelfFileText } from './shelf-file';
import { EMPTY_SHELF, SHELF_VERSION, type ShelfContents } from './shelf-storage';

const contents: ShelfContents = {
  ...EMPTY_SHELF,
  rhythms: ['own:x', 'own:y'],
  favourites: ['some phrase'],
  briefs: [{ id: 'brief-1', name: 'Wild', role: 'melody', brief: roleOf('melody').brief }],
  styles: [{ ...styleOf('soul'), id: 'own-style' }],
  keys: [{ id: 'play.toggle', keys: ['Space'] }],
};

describe('a file of the shelf', () => {
  it('brings back all that was on it, in its order', () => {
    const read = readShelfFile(shelfFileText(allOf(contents)));
    expect(read).toEqual({ ok: true, items: allOf(contents), unread: [] });
    expect(allOf(contents)).toHaveLength(6);
  });

  it('names what of it cannot be understood, and leaves the rest', () => {
    const items = [
      { kind: 'briefs', item: { id: 'b', name: 'Odd', role: 'nobody' } },
      { kind: 'rhythms', item: 'own:x' },
      { kind: 'weathers', item: { name: 'Fog' } },
      { kind: 'phrases', item: 7 },
    ];
    expect(readShelfFile(JSON.stringify({ format: 'fendro-shelf', version: 1, items }))).toEqual({
      ok: true,
      items: [{ kind: 'rhythms', item: 'own:x' }],
      unread: ['brief “Odd”', 'weathers “Fog”', 'phrase one without a name'],
    });
  });

  it('is refused in words where it is none, or newer than this build', () => {
    for (const text of ['', '{', '7', '{}', '{"format":"fendro-song","version":1}'])
      expect(readShelfFile(text)).toMatchObject({ ok: false, reason: expect.stringContaining('no file of') as string });
    const newer = JSON.stringify({ format: 'fendro-shelf', version: SHELF_VERSION + 1, items: [] });
    expect(readShelfFile(newer)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('newer Fendro') as string,
    });
  });
});
