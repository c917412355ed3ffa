import { TestBed } from '@angular/core/testing';
import { chosenMusic, handOver, type HandOverWish } from '@fendro/core/files/outgoing/hand-over';
import { printedSheet } from '@fendro/core/files/outgoing/printed-sheet';
import { utf8 } from '@fendro/core/files/midi/text';
import { SMALL } from '../testing/view';
import { filesWorkers } from './create-files-worker.mock';
import { FilesClient } from './files-client';

describe('the work on files', () => {
  const client = (): FilesClient => TestBed.inject(FilesClient);
  const bytesOfText = (text: string): Uint8Array => Uint8Array.from(utf8(text));
  const bytesOf = (data: unknown): Uint8Array => bytesOfText(JSON.stringify(data));
  const music = chosenMusic(SMALL.score, SMALL.takes);
  const wish: HandOverWish = {
    what: { kind: 'song' },
    human: true,
    apart: false,
    layersTogether: false,
    drumsApart: false,
    resolution: 480,
    drums: 'general',
  };

  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('brings a song file over whole, however many takes it has', async () => {
    const [first] = Object.values(SMALL.takes);
    const takes = Object.fromEntries(Array.from({ length: 250 }, (_, place) => [`take-${place}`, { ...first, place }]));
    const song = { ...SMALL.song, ledger: { takes, heard: [] } };
    expect(await client().readSong(bytesOf(song))).toEqual(JSON.parse(JSON.stringify(song)));
  });

  it('hands on what is no song as it is, and nothing of what is no JSON', async () => {
    for (const other of [7, 'rain', [1], { ledger: 3 }, { ledger: { takes: [] } }])
      expect(await client().readSong(bytesOf(other))).toEqual(other);
    expect(await client().readSong(bytesOfText('{ fog'))).toBeNull();
  });

  it('writes the same files as here, and packs them', async () => {
    const handed = await client().handOver(music, wish);
    expect(handed).toEqual(handOver(music, wish));
    const zip = await client().zip(handed.files.map(({ delivery }) => delivery));
    expect([...zip.slice(0, 2)]).toEqual([...bytesOfText('PK')]);
  });

  it('writes the same lead sheet as here, and none of a part that plays nothing', async () => {
    const [part] = SMALL.score.parts;
    const sheet = await client().leadSheet(music, part!.id);
    expect(sheet).toEqual(printedSheet(music, part!.id));
    expect(sheet?.xml).toContain('<score-partwise');
    expect(await client().leadSheet(music, 'nobody')).toBeNull();
  });

  it('ends its worker with the answer, when it is given up and when it breaks', async () => {
    const ended = jest.fn();
    const broken = new EventTarget();
    const silent = Object.assign(broken, { postMessage: () => undefined, terminate: ended });
    jest.spyOn(filesWorkers, 'create').mockImplementation(() => silent as unknown as Worker);
    const leaving = new AbortController();
    const left = client().handOver(music, wish, leaving.signal);
    leaving.abort();
    await expect(left).rejects.toThrow('given up');
    const failed = client().handOver(music, wish);
    broken.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
    await expect(failed).rejects.toThrow('out of memory');
    expect(ended).toHaveBeenCalledTimes(2);
  });
});
