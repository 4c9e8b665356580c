import { DRAG_TYPE, type Dragged } from "./dragged";

const HELD_MS = 350;
const STILL_PX = 10;

/**
 * Drags by touch what a mouse drags: held a moment it is taken up, and where the finger lets go it is dropped, as from a mouse.
 * A finger that moves at once scrolls the page, as ever.
 */
export function dragByTouch(touched: TouchEvent, dragged: Dragged) {
  const start = touched.touches[0];
  if (!start || touched.touches.length > 1) return;
  const stop = new AbortController();
  let at = { x: start.clientX, y: start.clientY };
  let isTaken = false;
  const take = setTimeout(() => {
    isTaken = true;
    navigator.vibrate?.(15);
  }, HELD_MS);
  const end = () => {
    clearTimeout(take);
    stop.abort();
  };
  const move = (event: TouchEvent) => {
    const touch = event.touches[0];
    if (!touch) return;
    const went = Math.hypot(touch.clientX - start.clientX, touch.clientY - start.clientY);
    if (!isTaken && went > STILL_PX) return end();
    if (!isTaken) return;
    // What is held does not scroll the page under it.
    event.preventDefault();
    at = { x: touch.clientX, y: touch.clientY };
  };
  const letGo = () => {
    end();
    if (isTaken) dropAt(at, dragged);
  };
  document.addEventListener("touchmove", move, { passive: false, signal: stop.signal });
  document.addEventListener("touchend", letGo, { signal: stop.signal });
  document.addEventListener("touchcancel", end, { signal: stop.signal });
}

function dropAt({ x, y }: { x: number; y: number }, dragged: Dragged) {
  const dataTransfer = new DataTransfer();
  dataTransfer.setData(DRAG_TYPE, JSON.stringify(dragged));
  const drop = new DragEvent("drop", { bubbles: true, cancelable: true, dataTransfer });
  document.elementFromPoint(x, y)?.dispatchEvent(drop);
}
