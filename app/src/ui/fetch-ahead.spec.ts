import { fetchAhead, fetchWhenIdle } from './fetch-ahead';

/** Tells the page that data is to be spared, or not. */
const spare = (saveData: boolean | undefined): void => {
  Object.defineProperty(navigator, 'connection', {
    value: saveData === undefined ? undefined : { saveData },
    configurable: true,
  });
};

describe('what is fetched ahead', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => {
    jest.useRealTimers();
    Reflect.deleteProperty(navigator, 'connection');
  });

  it.each([undefined, false])(
    'is fetched at once, or once the page is idle, where data need not be spared (%s)',
    (told) => {
      spare(told);
      const [soon, idle] = [jest.fn(), jest.fn()];
      fetchAhead(soon);
      fetchWhenIdle(idle);
      expect(soon).toHaveBeenCalledTimes(1);
      expect(idle).not.toHaveBeenCalled();
      jest.runAllTimers();
      expect(idle).toHaveBeenCalledTimes(1);
    },
  );

  it('is left until it is asked for where the browser was told to spare data', () => {
    spare(true);
    const fetched = jest.fn();
    fetchAhead(fetched);
    fetchWhenIdle(fetched);
    jest.runAllTimers();
    expect(fetched).not.toHaveBeenCalled();
  });
});
