import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { within, type BoundFunctions, type queries } from '@testing-library/dom';
import { Store } from '@ngrx/store';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { layOut } from '@fendro/core/song/resolve';
import type { Score } from '@fendro/core/song/schema';
import { spanOf } from '@fendro/core/sounding/course';
import { Guide } from '../../desks/guide';
import { SoundFilesClient } from '../../sound/rendered/sound-files-client';
import type { SoundWish } from '../../sound/rendered/sound-files-work';
import type { SoundProgress, WrittenSound } from '../../sound/rendered/sound-messages';
import { provideSong } from '../../store/provide-song';
import { SessionActions } from '../../store/session';
import { SongActions } from '../../store/song.actions';
import { downloads } from '../../ui/download.mock';
import { provideIcons } from '../../ui/icons';
import { SoundFiles } from './sound-files';

const { score, takes } = scoreWith(1, 0);

/** A client that writes when it is told to. */
class Writer {
  wish: Omit<SoundWish, 'banks'> | null = null;
  tell: (progress: SoundProgress) => void = () => undefined;
  finish: (written: WrittenSound) => void = () => undefined;
  fail: (problem: Error) => void = () => undefined;

  write(
    wish: Omit<SoundWish, 'banks'>,
    tell: (progress: SoundProgress) => void,
    given: AbortSignal,
  ): Promise<WrittenSound> {
    [this.wish, this.tell] = [wish, tell];
    return new Promise((resolve, reject) => {
      [this.finish, this.fail] = [resolve, reject];
      given.addEventListener('abort', () => {
        reject(new Error('it was given up'));
      });
    });
  }
}

describe('sound on its way out', () => {
  let writer: Writer;
  let fixture: ComponentFixture<SoundFiles>;
  const saved = jest.fn<undefined, [name: string, blob: Blob, type: string]>();

  async function shown(of: Score): Promise<BoundFunctions<typeof queries>> {
    writer = new Writer();
    TestBed.configureTestingModule({
      providers: [
        provideSong(),
        provideIcons(),
        { provide: SoundFilesClient, useValue: writer },
        { provide: Guide, useValue: { finish: () => undefined } },
      ],
    });
    TestBed.inject(Store).dispatch(SongActions.opened({ song: storedSong(musicOf(of, takes)) }));
    fixture = TestBed.createComponent(SoundFiles);
    await fixture.whenStable();
    return within(fixture.nativeElement as HTMLElement);
  }
  /** What was promised is there, and shown. */
  const settled = async (): Promise<void> => {
    for (let turn = 0; turn < 3; turn++) await new Promise((resolve) => setTimeout(resolve));
    await fixture.whenStable();
  };
  const status = (): string => (fixture.nativeElement as HTMLElement).querySelector('[role=status]')!.textContent;

  beforeEach(() => {
    saved.mockClear();
    jest
      .spyOn(downloads, 'download')
      .mockImplementation((name, blob, type) => saved(name, blob as unknown as Blob, type));
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('is the song by itself at first, written as asked, with its progress told and its facts at the end', async () => {
    const page = await shown(score);
    const rate = page.getByRole<HTMLSelectElement>('combobox', { name: 'Samples a second' });
    rate.value = [...rate.options].find(({ text }) => text === '44.1 kHz')!.value;
    rate.dispatchEvent(new Event('change'));
    page.getByRole('button', { name: 'Write as WAV' }).click();
    await settled();
    expect(writer.wish).toMatchObject({
      files: [{ name: `${score.title}.wav`, part: null }],
      rate: 44_100,
      bits: 24,
      music: { score },
    });
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Write as WAV' }).disabled).toBe(true);
    writer.tell({ name: score.title, done: 0.42 });
    await settled();
    expect(page.getByText(`Writing ${score.title}: 42 %`)).toBeTruthy();
    expect(page.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('42');
    const blob = new Blob(['rain'], { type: 'audio/wav' });
    writer.finish({ blob, seconds: 125.5, peaks: [0.5] });
    await settled();
    expect(saved).toHaveBeenCalledWith(`${score.title}.wav`, blob, 'audio/wav');
    expect(status()).toBe(`${score.title}.wav was handed over: 2:05 with what rings on, its highest peak −6.0 dB.`);
    expect(page.queryByRole('progressbar')).toBeNull();
  });

  it('is every part in a zip, but for those that are muted; silent ones are told', async () => {
    const [first, ...others] = score.parts;
    const page = await shown({ ...score, parts: [{ ...first!, muted: true }, ...others] });
    expect(page.getByText(`Left out because quiet: ${first!.name}.`)).toBeTruthy();
    page.getByRole('checkbox', { name: 'Every part by itself' }).click();
    page.getByRole('checkbox', { name: 'The song' }).click();
    await settled();
    expect(page.queryByRole('checkbox', { name: first!.name })).toBeNull();
    page.getByRole('button', { name: `Write ${others.length} WAV files in one zip` }).click();
    await settled();
    const names = others.map(({ name }, index) => `0${index + 1} ${name}.wav`);
    expect(writer.wish!.files.map(({ name, part }) => [name, part])).toEqual(
      names.map((name, index) => [name, others[index]!.id]),
    );
    writer.finish({ blob: new Blob([]), seconds: 4, peaks: others.map((_, index) => (index === 0 ? 0 : 1)) });
    await settled();
    expect(saved.mock.lastCall![0]).toBe(`${score.title} - Sound.zip`);
    expect(status()).toContain(`its highest peak 0.0 dB. Nothing sounds in ${names[0]}.`);
    page.getByRole('checkbox', { name: others[0]!.name }).click();
    await settled();
    expect(page.getByRole<HTMLInputElement>('checkbox', { name: 'Every part by itself' }).indeterminate).toBe(true);
    page.getByRole('checkbox', { name: 'Every part by itself' }).click();
    await settled();
    page.getByRole('checkbox', { name: 'Every part by itself' }).click();
    await settled();
    expect(page.getByRole<HTMLButtonElement>('button', { name: 'Write as WAV' }).disabled).toBe(true);
  });

  it('is what is looped, so often round as is asked for, and its parts', async () => {
    const page = await shown(score);
    const what = page.getByRole<HTMLSelectElement>('combobox', { name: 'What is written as sound' });
    const section = score.sections[0]!;
    TestBed.inject(Store).dispatch(SessionActions.barsSelected({ bars: { from: 1, to: 3 } }));
    await settled();
    what.value = [...what.options].find(({ text }) => /^What is looped: .*Bars 2–3/.test(text))!.value;
    what.dispatchEvent(new Event('change'));
    await settled();
    const times = page.getByRole<HTMLInputElement>('spinbutton', { name: 'Times round' });
    times.value = '3';
    times.dispatchEvent(new Event('input'));
    times.dispatchEvent(new Event('change'));
    page.getByRole('checkbox', { name: score.parts[0]!.name }).click();
    await settled();
    page.getByRole('button', { name: 'Write 2 WAV files in one zip' }).click();
    await settled();
    const name = `${section.name}, Bars 2–3`;
    expect(writer.wish).toMatchObject({
      stretch: { name, rounds: 3, span: spanOf(score, layOut(score)[0]!, { from: 1, to: 3 }) },
      files: [
        { name: `${score.title} - ${name}.wav`, part: null },
        { name: `01 ${score.parts[0]!.name} - ${name}.wav`, part: score.parts[0]!.id },
      ],
    });
    writer.finish({ blob: new Blob([]), seconds: 4, peaks: [1, 1] });
    await settled();
    expect(saved.mock.lastCall![0]).toBe(`${score.title} - ${name} - Sound.zip`);
  });

  it('can be given up, and says why where it fails', async () => {
    const page = await shown(score);
    const write = (): void => {
      page.getByRole('button', { name: 'Write as WAV' }).click();
    };
    write();
    await settled();
    page.getByRole('button', { name: 'Give up' }).click();
    await settled();
    expect(status()).toBe('Writing was given up; nothing was handed over.');
    write();
    await settled();
    writer.fail(new Error('there is no room left'));
    await settled();
    expect(page.getByRole('alert').textContent).toContain('The sound could not be written: there is no room left.');
    expect(saved).not.toHaveBeenCalled();
  });
});
