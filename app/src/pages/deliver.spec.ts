import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PartTake, Score } from '@fendro/core/song/schema';
import { editedTake } from '@fendro/core/song/take';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { SongFiles } from '../desks/song-files';
import { SongActions } from '../store/song.actions';
import { provideIcons } from '../ui/icons';
import { Guide } from '../desks/guide';
import { Deliver } from './deliver';
import { chosenId, withChoice } from '@fendro/core/song/section';
import { provideSong } from '../store/provide-song';

const { score, takes } = scoreWith(1, 0);
const melody = score.parts[0]!;
const verse = score.sections[0]!;

async function shown(of: Score, more: Record<string, PartTake> = {}): Promise<HTMLElement> {
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      provideRouter([]),
      provideIcons(),
      { provide: SongFiles, useValue: { write: () => Promise.resolve(null) } },
      { provide: Guide, useValue: { finish: () => undefined } },
    ],
  });
  TestBed.inject(Store).dispatch(SongActions.opened({ song: storedSong(musicOf(of, { ...takes, ...more })) }));
  const fixture = TestBed.createComponent(Deliver);
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

const texts = (page: HTMLElement, selector: string): string[] =>
  [...page.querySelectorAll(selector)].map((element) => element.textContent.trim().replace(/\s+/g, ' '));

describe('the Deliver page', () => {
  it('lists the song, its lines, its chords and its sections, and says nothing where nothing surprises', async () => {
    const page = await shown(score);
    expect(texts(page, 'tbody td:first-child')).toEqual([
      'The song, a track for each part',
      'The song in one track',
      ...score.parts.map(({ name }) => `${name} alone`),
      'The chords, as voiced and struck',
      ...score.sections.map(({ name }) => `${name}, all parts`),
    ]);
    expect(texts(page, 'p.quiet')).toEqual([]);
  });

  it('leaves out what is quiet, and says so', async () => {
    const page = await shown({ ...score, parts: score.parts.map((part) => ({ ...part, muted: part === melody })) });
    expect(texts(page, 'p.quiet')).toEqual([`Left out because quiet: ${melody.name}.`]);
    expect(texts(page, 'tbody td:first-child')).not.toContain(`${melody.name} alone`);
  });

  it('says once of the song what holds of it, and of a section what holds of that alone', async () => {
    const led = editedTake('led', takes[chosenId(score.sections[1]!, melody.id)!] as PartTake, [
      { start: -480, duration: 400, pitch: 70, velocity: 80 },
    ]);
    const chorus = withChoice(score.sections[1]!, melody.id, 'led');
    const page = await shown({ ...score, sections: [verse, chorus] }, { led });
    expect(texts(page, 'p.quiet')).toEqual([]);
    expect(texts(page, '.remark')).toEqual(['A bar stands before bar 1, since the music begins with a pick-up.']);
    TestBed.resetTestingModule();
    const first = withChoice(verse, melody.id, 'led');
    const begun = await shown({ ...score, sections: [first, score.sections[1]!] }, { led });
    expect(texts(begun, 'p.quiet')).toEqual(['A bar stands before bar 1, since the music begins with a pick-up.']);
    expect(texts(begun, '.remark')).toEqual([]);
  });

  it('offers no file of one track for more pitches than a port has channels, and names the further port', async () => {
    const lines = Array.from({ length: 12 }, (_, index) => ({ ...melody, id: `more-${index}`, name: `Line ${index}` }));
    const page = await shown({ ...score, parts: [...score.parts, ...lines] });
    expect(texts(page, 'tbody td:first-child')).not.toContain('The song in one track');
    const [port, track] = texts(page, 'p.quiet');
    expect(port).toContain('On a further MIDI port');
    expect(track).toContain('One track has 15 channels for pitches, and 16 pitched lines sound');
  });
});
