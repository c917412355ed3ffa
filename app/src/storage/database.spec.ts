import { memory, openMemory } from '../testing/memory-database';
import { Database } from './database';

describe('the browser’s database', () => {
  beforeEach(() => {
    jest.useFakeTimers();
    openMemory();
  });

  it('has twelve turns of the page for an answer, however late they come, and then does not answer', async () => {
    memory.trouble = () => new Promise<never>(() => undefined);
    const failed = jest.fn();
    new Database('songs').get('song').catch(failed);
    const turn = async (): Promise<void> => {
      jest.advanceTimersToNextTimer();
      await jest.advanceTimersByTimeAsync(0);
    };
    for (let count = 0; count < 11; count++) await turn();
    expect(failed).not.toHaveBeenCalled();
    await turn();
    expect(failed).toHaveBeenCalledWith(expect.objectContaining({ message: 'the browser’s storage does not answer' }));
  });

  it('stops its clock once there is an answer', async () => {
    memory.values.set('song', { title: 'Gale' });
    expect(await new Database('songs').get('song')).toEqual({ title: 'Gale' });
    expect(jest.getTimerCount()).toBe(0);
  });
});
