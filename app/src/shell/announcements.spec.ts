import { LiveAnnouncer } from '@angular/cdk/a11y';
import { TestBed } from '@angular/core/testing';
import { screen, waitFor } from '@testing-library/dom';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { provideIcons } from '../ui/icons';
import { Announcements } from './announcements';

describe('announcements', () => {
  const announce = jest.fn(() => Promise.resolve());
  const notices = (): Notices => TestBed.inject(Notices);
  const slips = (): readonly string[] =>
    screen.queryAllByRole('listitem').map((slip) => slip.querySelector('span')?.textContent ?? '');

  beforeEach(() => {
    jest.useRealTimers();
    announce.mockClear();
    TestBed.configureTestingModule({ providers: [provideIcons(), { provide: LiveAnnouncer, useValue: { announce } }] });
    TestBed.inject(Announcements);
  });

  it('shows every open notice and says each once', async () => {
    notices().sayUntilRead('Removed “Verse”.');
    await waitFor(() => {
      expect(slips()).toEqual(['Removed “Verse”.']);
    });
    notices().sayUntilRead('Removed “Bridge”.');
    await waitFor(() => {
      expect(slips()).toEqual(['Removed “Verse”.', 'Removed “Bridge”.']);
    });
    expect(announce.mock.calls).toEqual([
      ['Removed “Verse”.', 'polite'],
      ['Removed “Bridge”.', 'polite'],
    ]);
  });

  it('does what a notice offers and goes when the last is put away', async () => {
    const undone = jest.fn();
    notices().sayUntilRead('Removed “Verse”.', { label: 'Undo', run: undone });
    notices().sayUntilRead('Saved.');
    (await screen.findByRole('button', { name: 'Undo' })).click();
    expect(undone).toHaveBeenCalledTimes(1);
    await waitFor(() => {
      expect(slips()).toEqual(['Saved.']);
    });
    screen.getByRole('button', { name: 'Dismiss' }).click();
    await waitFor(() => {
      expect(screen.queryByRole('list', { name: 'Messages' })).toBeNull();
    });
  });

  it('comes back after it went', async () => {
    notices().sayUntilRead('First.');
    await screen.findByText('First.');
    notices()
      .open()
      .forEach(({ id }) => notices().dismiss(id));
    await waitFor(() => {
      expect(screen.queryByText('First.')).toBeNull();
    });
    notices().sayUntilRead('Second.');
    await screen.findByText('Second.');
  });

  it('says the news', async () => {
    TestBed.inject(News).say('Six takes of the melody are there.');
    TestBed.tick();
    await Promise.resolve();
    expect(announce).toHaveBeenCalledWith('Six takes of the melody are there.', 'polite');
  });
});
