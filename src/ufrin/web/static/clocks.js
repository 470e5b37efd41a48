// Clocks on a page: counted by this device's steady time from what the server said last, with a sound before they end.
(() => {
  "use strict";
  const BEFORE_S = 60; // an alarm rings so long before the end, and at it
  let air = null;
  const beep = (hertz) => {
    if (localStorage.getItem("bench-sound") === "muted") return;
    try {
      air ??= new AudioContext();
      if (air.state === "suspended") air.resume();
      for (const at of [0, 0.5]) {
        const tone = air.createOscillator();
        const loud = air.createGain();
        tone.frequency.value = hertz;
        loud.gain.setValueAtTime(0.15, air.currentTime + at);
        loud.gain.exponentialRampToValueAtTime(0.001, air.currentTime + at + 0.4);
        tone.connect(loud).connect(air.destination);
        tone.start(air.currentTime + at);
        tone.stop(air.currentTime + at + 0.4);
      }
    } catch { /* a device without sound shows it all the same */ }
  };
  const text = (seconds) => {
    const whole = Math.max(0, Math.round(seconds)), hours = Math.floor(whole / 3600);
    const two = (part) => String(part).padStart(2, "0");
    const minutes = Math.floor(whole / 60) % 60;
    return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
  };
  const seen = new WeakMap();
  const tick = () => document.querySelectorAll("[data-counts]").forEach((node) => {
    const said = Number(node.dataset.counts);
    let one = seen.get(node);
    if (!one || one.said !== said) { one = { said, at: performance.now(), last: said }; seen.set(node, one); }
    const left = said - (performance.now() - one.at) / 1000;
    if (left > 0) node.textContent = text(left);
    const crossed = (seconds) => one.last > seconds && left <= seconds;
    if (node.dataset.alarm && crossed(BEFORE_S)) beep(660);
    if (crossed(0)) {
      node.textContent = node.dataset.ended ?? "now";
      if (node.dataset.alarm) beep(990);
      node.dispatchEvent(new CustomEvent("clock-ended", { bubbles: true, detail: node.dataset.alarm ?? "" }));
    }
    one.last = left;
  });
  setInterval(tick, 250);
  tick();
})();
