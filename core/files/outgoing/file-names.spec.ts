import * as fc from 'fast-check';
import { unzipSync } from 'fflate';
import { zipFiles } from './archive';
import { fileNameOf, withNamesApart } from './file-names';
import { utf8 } from '../midi/text';

const titles = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 130 }),
  fc.constantFrom(
    'con',
    'NUL.tar',
    'aux',
    '…',
    '...',
    'Буря',
    '嵐',
    '',
    'a/b\\c',
    'x'.repeat(300),
    '嵐'.repeat(120),
    'trailing. ',
    '\u202Egnp.mid',
  ),
);

describe('names of files', () => {
  it('keep the letters of any script and lose what file systems forbid', () => {
    expect(fileNameOf(['Föhn: day/night?'], '.mid')).toBe('Föhn day night.mid');
    expect(fileNameOf(['Буря', '嵐の夜'], '.mid')).toBe('Буря - 嵐の夜.mid');
    expect(fileNameOf(['Fo\u0308hn'], '.mid')).toBe('Föhn.mid');
    expect(fileNameOf(['???'], '.mid')).toBe('untitled.mid');
    expect(fileNameOf(['con'], '.mid')).toBe('con_.mid');
    expect(fileNameOf(['NUL.take 2'], '.mid')).toBe('NUL_.take 2.mid');
  });

  it('hold up to 100 letters, and what tells a file apart before the title', () => {
    const name = fileNameOf(['The barometer '.repeat(12), 'Melody', 'Second chorus'], '.mid');
    expect(name.length).toBeLessThanOrEqual(100);
    expect(name).toMatch(/ - Melody - Second chorus\.mid$/);
  });

  it('are such that every file system takes them', () => {
    fc.assert(
      fc.property(fc.array(titles, { minLength: 1, maxLength: 3 }), (pieces) => {
        const name = fileNameOf(pieces, '.mid');
        expect(name.length).toBeLessThanOrEqual(100);
        expect(utf8(name).length).toBeLessThanOrEqual(255);
        expect(name).not.toMatch(/[<>:"/\\|?*\p{Cc}]/u);
        expect(name).not.toMatch(/^(?:con|prn|aux|nul|com\d|lpt\d)\./i);
        expect(name).not.toMatch(/^[.\s]|[.\s]\.mid$/);
        expect(name.normalize('NFC')).toBe(name);
      }),
      { numRuns: 500 },
    );
  });

  it('are numbered where they would be alike', () => {
    expect(
      withNamesApart(['a.mid', 'A.mid', 'a (2).mid', 'a.mid', 'b'].map((name) => ({ name }))).map(({ name }) => name),
    ).toEqual(['a.mid', 'A (2).mid', 'a (2) (2).mid', 'a (3).mid', 'b']);
  });

  it('let a zip hold as many files as are on the list, whatever they are called', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(titles, titles), { minLength: 1, maxLength: 12 }), (list) => {
        const files = list.map(([title, section], index) => ({
          name: fileNameOf([title, section], '.mid'),
          bytes: Uint8Array.of(index, 1, 2),
        }));
        const found = unzipSync(zipFiles(files));
        expect(
          Object.values(found)
            .map(([first]) => first)
            .sort((a, b) => a! - b!),
        ).toEqual(files.map((_, index) => index));
        for (const name of Object.keys(found)) expect(name.length).toBeLessThanOrEqual(100);
      }),
      { numRuns: 200 },
    );
  });
});
