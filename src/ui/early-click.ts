declare global {
  interface Window {
    /** The last thing that was clicked before the page was awake. */
    chillbankEarlyClick?: EventTarget | null;
  }
}

/** For the page's head: keeps the last click that comes before the page's scripts have taken over, when nobody hears it. */
export const KEEP_EARLY_CLICK = `addEventListener("click",e=>{if(!("awake"in document.documentElement.dataset))window.chillbankEarlyClick=e.target},true);`;

/** Clicks again what was clicked too early; what the browser has done by itself, such as following a link, is not done twice. */
export function repeatEarlyClick(): void {
  const target = window.chillbankEarlyClick;
  delete window.chillbankEarlyClick;
  if (!(target instanceof Element) || !target.isConnected || target.closest("a[href], summary")) return;
  target.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
}
