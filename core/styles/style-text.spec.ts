import { formsText, ownChordsText, readForms, readOwnChords, readSung, sungText } from './style-text';
import { STYLES } from './styles';

describe('figures as text', () => {
  it('say again what every style has', () => {
    for (const { melody = [], harmony } of STYLES) {
      expect(readSung(sungText(melody), 'Melodies')).toEqual({ ok: true, figures: melody });
      expect(readForms(formsText(harmony.forms ?? []), 'Forms')).toEqual({ ok: true, figures: harmony.forms ?? [] });
      const chords = readOwnChords(ownChordsText(harmony), 'Own chords');
      const count = [harmony.majorChords, harmony.minorChords].flatMap((own) => Object.keys(own ?? {})).length;
      expect(chords.ok && chords.figures).toHaveLength(count);
    }
  });

  it.each([
    [readSung('one = x - x', 'Melodies'), /without spaces/],
    [readForms('one', 'Forms'), /Forms, line 1: a line needs a name/],
    [readForms('one = 1 4 @many', 'Forms'), /parted by spaces/],
    [readOwnChords('lydian 4 = 1 3 5', 'Own chords'), /“major” or “minor”/],
  ])('tell what cannot be read', (read, told) => {
    expect(read.ok ? '' : read.problem).toMatch(told);
  });
});
