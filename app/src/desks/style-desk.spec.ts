import { TestBed } from '@angular/core/testing';
import { STYLES, styleOf } from '@fendro/core/styles/styles';
import { Playback } from '../sound/playback';
import { silentPlayback, SMALL, viewOf } from '../testing/view';
import { DraftClient } from '../work/draft-client';
import { BarsStrip } from '../workspace/bars-strip';
import { StyleDesk } from './style-desk';

/** A worker that answers at once with one note, or only when it is let. */
function styles(slow = false) {
  const answers: (() => void)[] = [];
  const client = {
    run: jest.fn((_job: unknown, on: { take: (answer: object) => void }) => {
      const notes = [{ start: 0, duration: 480, pitch: 60, velocity: 80 }];
      const answer = (): void => {
        on.take({ content: { of: 'part', notes }, attempts: { plan: 0, rhythm: 0, pitch: 0, dynamics: 0 } });
      };
      if (!slow) answer();
      return {
        done: slow ? new Promise<void>((resolve) => answers.push(resolve)) : Promise.resolve(),
        cancel: jest.fn(),
      };
    }),
  };
  const guests: unknown[] = [];
  let guest: unknown = null;
  const playback = {
    ...silentPlayback(),
    guest: Object.assign(() => guest, { set: (next: unknown) => guests.push((guest = next)) }),
  };
  const view = viewOf(BarsStrip, {
    providers: [
      { provide: DraftClient, useValue: client },
      { provide: Playback, useValue: playback },
    ],
  });
  return { view, client, playback, guests, answers, desk: TestBed.inject(StyleDesk) };
}

describe('styles that are heard', () => {
  it('play their own band over the section’s chords, and leave the song alone', async () => {
    const { view, desk, guests, playback } = styles();
    await desk.hear('samba');
    const [guest] = guests as { score: typeof SMALL.score; takes: object }[];
    expect(guest!.score.parts.map(({ role }) => role)).toEqual(styleOf('samba').band.map(({ role }) => role));
    expect(guest!.score.ground.style).toBe('samba');
    expect(playback.play).toHaveBeenCalledTimes(1);
    expect(view.score).toBe(SMALL.score);
    desk.silence();
    expect(guests.at(-1)).toBeNull();
    expect(playback.stop).toHaveBeenCalled();
  });

  it('that were left before their band was there never sound', async () => {
    const { desk, guests, answers } = styles(true);
    const heard = desk.hear('samba');
    desk.silence();
    for (const answer of answers) answer();
    await heard;
    expect(guests).toEqual([]);
    expect(desk.working()).toBe(false);
  });

  it('are all that ship, with one’s own before them', () => {
    const { desk } = styles();
    expect(desk.all().slice(-STYLES.length)).toEqual(STYLES);
    expect(desk.isOwn('samba')).toBe(false);
    expect(desk.styleBy('samba').id).toBe('samba');
  });
});
