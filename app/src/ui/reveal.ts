/** Scrolls a frame just so far that something in it is whole; the page around it stays where it is. */
function revealIn(frame: HTMLElement, element: HTMLElement): void {
  const [outer, inner] = [frame.getBoundingClientRect(), element.getBoundingClientRect()];
  if (inner.top < outer.top) frame.scrollTop += inner.top - outer.top;
  else if (inner.bottom > outer.top + frame.clientHeight)
    frame.scrollTop += Math.min(inner.top - outer.top, inner.bottom - outer.top - frame.clientHeight);
}

/** Makes sure that one of several things in a frame is whole: one that can be seen already, else the first. */
export function revealOneIn(frame: HTMLElement, elements: readonly HTMLElement[]): void {
  const { top } = frame.getBoundingClientRect();
  const seen = elements.find((element) => {
    const box = element.getBoundingClientRect();
    return box.bottom > top && box.top < top + frame.clientHeight;
  });
  const one = seen ?? elements[0];
  if (one) revealIn(frame, one);
}
