const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** A moment as it is said today: its time, and its day where it was another. @param at  in ms of the clock */
export function sayMoment(at: number, now = Date.now()): string {
  const today = new Date(at).toDateString() === new Date(now).toDateString();
  return (today ? TIME : DAY).format(at);
}
