import { fetchAhead, fetchWhenIdle } from './fetch-ahead';

/** Sets the browser's data saver; undefined where the browser has none. */
const setDataSaver = (saveData: boolean | undefined): void => {
  Object.defineProperty(navigator, 'connection', {
    value: saveData === undefined ? undefined : { saveData },
    configurable: true,
  });
};

describe('fetching ahead', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => {
    jest.useRealTimers();
    Reflect.deleteProperty(navigator, 'connection');
  });

  it.each([undefined, false])('runs now or when the page is idle while the data saver is off (%s)', (saver) => {
    setDataSaver(saver);
    const [soon, idle] = [jest.fn(), jest.fn()];
    fetchAhead(soon);
    fetchWhenIdle(idle);
    expect(soon).toHaveBeenCalledTimes(1);
    expect(idle).not.toHaveBeenCalled();
    jest.runAllTimers();
    expect(idle).toHaveBeenCalledTimes(1);
  });

  it('fetches nothing while the data saver is on', () => {
    setDataSaver(true);
    const fetched = jest.fn();
    fetchAhead(fetched);
    fetchWhenIdle(fetched);
    jest.runAllTimers();
    expect(fetched).not.toHaveBeenCalled();
  });
});
