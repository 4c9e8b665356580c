import { useEffect } from "react";

/**
 * What had the focus may be taken out under the hand: a row that is removed, a button that has done its work. Whoever works by
 * keys goes on in the station then, and not from the page's beginning.
 */
export function useKeptFocus(station: () => HTMLElement | null) {
  useEffect(() => {
    let byKeys = false;
    const press = () => {
      byKeys = true;
    };
    const point = () => {
      byKeys = false;
    };
    const lost = () =>
      requestAnimationFrame(() => {
        if (byKeys && document.activeElement === document.body) station()?.focus({ preventScroll: true });
      });
    // What is taken out of the page says nothing of its going: it is looked for after every change.
    const watching = new MutationObserver(lost);
    watching.observe(document.body, { childList: true, subtree: true });
    document.addEventListener("keydown", press, true);
    document.addEventListener("pointerdown", point, true);
    document.addEventListener("focusout", lost, true);
    return () => {
      watching.disconnect();
      document.removeEventListener("keydown", press, true);
      document.removeEventListener("pointerdown", point, true);
      document.removeEventListener("focusout", lost, true);
    };
  }, [station]);
}
