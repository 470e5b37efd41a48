// The bench in the browser: the scale's readings as they come, the bar that fills, sounds, the pot-life clock, keys.
(() => {
  "use strict";
  const main = document.getElementById("main");
  const step = () => document.getElementById("weigh");
  const number = (name) => (step().dataset[name] === undefined || step().dataset[name] === ""
    ? null : Number(step().dataset[name]));
  const OUNCE = 28.349523125;
  const WORDS = JSON.parse(main.dataset.words);
  // the clock of a practice runs faster than the one on the wall
  const seconds = () => (performance.now() * Number(main.dataset.pace ?? 1)) / 1000;

  // figures in the workshop's units
  const inUnits = (grams) => {
    const us = step().dataset.units === "us";
    const digits = Number(step().dataset.decimals);
    const figure = Math.abs(us ? grams / OUNCE : grams).toFixed(digits);
    const sign = grams < 0 && Number(figure) !== 0 ? "−" : "";
    const text = Number(figure).toLocaleString(document.documentElement.lang, { minimumFractionDigits: digits,
      useGrouping: false });
    return [`${sign}${text}`, us ? "oz" : "g"];
  };

  // sound: beeps that hurry towards the target, or a voice; kept on this device
  const MODES = ["beeps", "voice", "muted"];
  let mode = localStorage.getItem("bench-sound") ?? "beeps";
  let air = null;
  const beep = (hertz, seconds) => {
    if (mode === "muted") return;
    try {
      air ??= new AudioContext();
      if (air.state === "suspended") air.resume();
      const tone = air.createOscillator();
      const loud = air.createGain();
      tone.frequency.value = hertz;
      loud.gain.setValueAtTime(0.15, air.currentTime);
      loud.gain.exponentialRampToValueAtTime(0.001, air.currentTime + seconds);
      tone.connect(loud).connect(air.destination);
      tone.start();
      tone.stop(air.currentTime + seconds);
    } catch { /* a device without sound shows it all the same */ }
  };
  const speak = (words) => {
    if (mode !== "voice" || !window.speechSynthesis) return;
    speechSynthesis.cancel();
    const spoken = new SpeechSynthesisUtterance(words);
    spoken.lang = document.documentElement.lang;
    speechSynthesis.speak(spoken);
  };
  const label = () => {
    const button = step().querySelector(".sound");
    if (!button) return;
    const words = button.dataset;
    button.textContent = { beeps: words.wordsBeeps, voice: words.wordsVoice, muted: words.wordsMuted }[mode];
    button.setAttribute("aria-label", words.wordsLabel.replace("…", button.textContent));
  };

  let reading = { link: "connecting", g: null, settled: false, state: "ok" };
  // a scale that was touched at the table of a practice counts as moving for a while, whatever readings were on their way
  const isSettled = () => reading.settled && performance.now() >= Number(main.dataset.restsFrom ?? 0);
  let lastBeep = 0;
  let lastPlace = "";
  const approach = (net) => {
    const target = number("target");
    if (target === null) return;
    const now = performance.now();
    const left = target - net;
    const within = net >= number("low") && net <= number("high");
    const place = within ? "within" : net > number("high") ? "over" :
      left <= target * 0.1 ? "slowly" : left <= target / 2 ? "half" : "";
    if (place !== lastPlace) {
      if (place === "within") beep(1320, 0.5);
      if (place === "over") beep(220, 0.6);
      if (place) speak(WORDS.spoken[place]);
      lastPlace = place;
    }
    if (net > target * 0.5 && !within && left > 0) {
      const every = 90 + 900 * Math.min(1, left / (target * 0.5));
      if (now - lastBeep > every) { beep(880, 0.06); lastBeep = now; }
    }
  };

  const show = () => {
    const here = step();
    const link = here.querySelector("[data-link]");
    const zero = number("zero");
    const usable = reading.link === "reading" && reading.state === "ok" && reading.g !== null;
    if (link) {
      const name = link.textContent.split(":")[0];
      const words = WORDS.states[reading.state] ?? WORDS.links[reading.link];
      const text = `${name}: ${words}`;
      if (link.textContent !== text) link.textContent = text;
      link.classList.toggle("lost", reading.link === "lost" || reading.link === "silent" || reading.state !== "ok");
    }
    here.querySelectorAll("[data-needs]").forEach((button) => {
      button.disabled = button.dataset.needs === "never" || !usable || !isSettled();
    });
    const shown = here.querySelector("[data-shown]");
    if (!shown) return;
    const weighs = here.classList.contains("step-weigh");
    const togo = here.querySelector("[data-togo]");
    if (!usable || (weighs && zero === null)) {
      shown.textContent = reading.state === "overload" && reading.link === "reading" ? "over" : "–";
      if (togo) togo.textContent = weighs && usable ? WORDS.tare : "";
      return;
    }
    const net = weighs ? reading.g - zero : reading.g;
    const [figure, unit] = inUnits(net);
    shown.textContent = `${figure} ${unit}`;
    shown.classList.toggle("moving", !isSettled());
    if (!weighs) return;
    const place = net < number("low") ? "under" : net > number("high") ? "over" : "within";
    const left = inUnits(Math.abs(number("target") - net)).join(" ");
    const words = WORDS.verdicts[place].replace("{0}", left);
    if (togo.textContent !== words) togo.textContent = words;
    togo.className = `togo ${place}`;
    const fill = here.querySelector("[data-fill]");
    fill.setAttribute("width", Math.max(0, Math.min(1000, (1000 * net) / number("whole"))).toFixed(1));
    fill.setAttribute("class", `b-fill ${place}`);
    approach(net);
  };

  // the stream: readings, and word that the record has a new line
  let source = null;
  let following = null;
  const follow = () => {
    const scale = step().dataset.scale;
    if (source && following === scale) return;
    source?.close();
    following = scale;
    reading = { link: "connecting", g: null, settled: false, state: "ok" };
    source = new EventSource(`${main.dataset.stream}?scale=${scale}`);
    let broken = false;
    source.addEventListener("open", () => { if (broken) { broken = false; look(); } });
    source.addEventListener("error", () => {
      broken = true; reading = { ...reading, link: "lost", settled: false }; show();
    });
    source.addEventListener("reading", (event) => {
      reading = JSON.parse(event.data);
      main.dataset.readings = String(reading.n);
      main.dataset.shows = reading.g === null ? "" : String(reading.g);
      show();
    });
    source.addEventListener("changed", () => look());
  };

  // looks where the pour stands; what is being typed here is not taken away, and while a line of this page is on its
  // way, or once the page shows more than was read, the answer is of no use
  let looking = false;
  let sending = 0;
  document.addEventListener("htmx:beforeRequest", () => { sending += 1; });
  document.addEventListener("htmx:afterRequest", () => { sending = Math.max(0, sending - 1); });
  const look = async (again = false) => {
    if (looking) return;
    looking = true;
    try {
      const answer = await fetch(`${main.dataset.now}${location.search}`, { headers: { "HX-Request": "true" } });
      if (!answer.ok) return;
      const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").getElementById("weigh");
      if (!fresh || sending || Number(fresh.dataset.step) < Number(step().dataset.step)) return;
      const typed = document.activeElement;
      const isTyping = step().contains(typed) && "defaultValue" in typed && typed.value !== typed.defaultValue;
      if (fresh.dataset.step === step().dataset.step && (isTyping || !again)) { setClock(fresh.querySelector(".clock")); return; }
      step().replaceWith(fresh);
      htmx.process(fresh);
      stepShown();
    } catch { /* the server is away: the stream tells when it is back */ } finally { looking = false; }
  };

  // the clock counts by this device's steady time from what the server said last
  let clock = null;
  let phase = "";
  const setClock = (node) => {
    const shownClock = step().querySelector(".clock");
    clock = node && shownClock ? { left: Number(node.dataset.left), used: Number(node.dataset.used),
      whole: Number(node.dataset.whole), at: seconds() } : null;
  };
  const clockText = (seconds) => {
    const whole = Math.round(Math.abs(seconds));
    const hours = Math.floor(whole / 3600);
    const two = (value) => String(value).padStart(2, "0");
    const minutes = Math.floor((whole % 3600) / 60);
    const text = hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
    return seconds < 0 && whole ? `−${text}` : text;
  };
  const tick = () => {
    if (!clock) return;
    const node = step().querySelector(".clock");
    if (!node) return;
    const elapsed = seconds() - clock.at;
    const used = clock.used + elapsed / clock.whole;
    node.querySelector(".left").textContent = clockText(clock.left - elapsed);
    const current = WORDS.phases.find((one) => used >= one.from) ?? WORDS.phases.at(-1);
    if (current.phase === phase) return;
    if (phase) { // alarm
      const hertz = current.phase === "soon" ? 660 : 990;
      beep(hertz, 0.8);
      setTimeout(() => beep(hertz, 0.8), 500);
      speak(current.spoken);
      if (current.text) node.querySelector(".said").textContent = current.text;
    }
    node.className = `clock clock-${current.phase}`;
    phase = current.phase;
  };

  // the time of a step: down to the least it takes, then up to the most
  let timer = null;
  const setTimer = () => {
    const { elapsed, least, most } = step().dataset;
    timer = elapsed === undefined ? null : { elapsed: Number(elapsed), least: Number(least),
      most: most ? Number(most) : null, at: seconds(), place: "" };
  };
  const tickTimer = () => {
    const shown = step().querySelector("[data-step-timer]");
    if (!timer || !shown) return;
    const passed = timer.elapsed + seconds() - timer.at;
    const place = passed < timer.least ? "least" : timer.most === null || passed < timer.most ? "enough" : "over";
    const left = place === "least" ? timer.least - passed : place === "enough" && timer.most !== null
      ? timer.most - passed : passed - (timer.most ?? timer.least);
    shown.textContent = clockText(Math.max(0, left));
    const words = WORDS.steps[place === "enough" && timer.most === null ? "done" : place];
    const said = step().querySelector("[data-step-words]");
    if (said.textContent !== words) said.textContent = words;
    if (timer.place && place !== timer.place) {
      beep(place === "enough" ? 1320 : 220, 0.6);
      speak(words);
    }
    timer.place = place;
  };

  const stepShown = () => {
    lastPlace = "";
    setTimer();
    const node = step().querySelector(".clock");
    phase = node ? [...node.classList].find((name) => name.startsWith("clock-")).slice(6) : "";
    setClock(node);
    label();
    follow();
    show();
    if (step().querySelector("#notice .notice")) step().querySelector("#net_g")?.focus();
  };

  document.addEventListener("htmx:afterSettle", stepShown);
  document.addEventListener("clock-ended", (event) => { if (event.detail) { speak(event.detail); look(true); } });
  const tell = (text) => {
    const words = document.createElement("p");
    words.className = "notice";
    words.textContent = text;
    document.getElementById("notice")?.replaceChildren(words);
  };

  // what can't be sent is kept on this device with the time at which it was done, and goes out when the server is back;
  // its token makes it count once. A weight by the scale is kept as it was shown then: later it may show another.
  const PLACE = `bench-unsent ${location.pathname}`;
  let shownThen = null;
  document.addEventListener("htmx:beforeRequest", () => { shownThen = isSettled() ? reading.g : null; });
  const keep = ({ formData, path }) => {
    const said = Object.fromEntries(formData);
    if (said.by === "scale" && shownThen === null) return false;
    if (said.by === "scale") said.kept_g = `${shownThen} g`;
    localStorage.setItem(PLACE, JSON.stringify({ said, to: path, at: Date.now() }));
    return true;
  };
  let going = false;
  const sendKept = async () => {
    const kept = JSON.parse(localStorage.getItem(PLACE) ?? "null");
    if (!kept || going) return;
    going = true;
    try {
      const late = Math.max(1, Math.round((Date.now() - kept.at) / 1000));
      const answer = await fetch(`${kept.to}${location.search}`, { method: "POST", headers: { "HX-Request": "true" },
        body: new URLSearchParams({ ...kept.said, late_s: String(late) }) });
      const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").getElementById("weigh");
      if (!fresh) return; // signed out meanwhile, or an error: it stays here until the bench answers
      localStorage.removeItem(PLACE);
      step().replaceWith(fresh);
      htmx.process(fresh);
      stepShown();
      if (!document.querySelector("#notice .notice")) tell(WORDS.sent);
    } catch { /* still away */ } finally { going = false; }
  };
  setInterval(sendKept, 2000);
  document.addEventListener("htmx:sendError", (event) => {
    if (event.detail.elt.closest("#weigh form")) tell(keep(event.detail.requestConfig) ? WORDS.kept : WORDS.away);
  });
  // a double tap counts once: its second half would press what the next step shows in the same place
  document.addEventListener("click", (event) => {
    if (event.detail > 1 && event.target.closest("#weigh [type=submit], #weigh button:not([type])")) event.preventDefault();
  }, { capture: true });
  document.addEventListener("click", (event) => {
    if (!event.target.closest("[data-do=sound]")) return;
    mode = MODES[(MODES.indexOf(mode) + 1) % MODES.length];
    localStorage.setItem("bench-sound", mode);
    label();
    beep(880, 0.1);
  });
  document.addEventListener("keydown", (event) => {
    const typing = event.target.closest("input, select, textarea");
    if (event.key === "Escape" && typing) typing.blur();
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    const press = (node) => { if (node && !node.disabled) { event.preventDefault(); node.click(); } };
    if (event.key === "Enter" && !event.target.closest("button, a, summary")) press(step().querySelector("[data-primary]"));
    if (event.key === "t") press(step().querySelector("[data-key=t]"));
    if (event.key === "m") press(step().querySelector(".sound"));
    if (event.key === "w" || event.key === "o") press(step().querySelector(".else summary"));
    if (/^[0-9.,]$/.test(event.key)) step().querySelector("#net_g")?.focus();
  });
  setInterval(() => { tick(); tickTimer(); }, 200);
  setInterval(() => look(), 15000);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) look(); });
  stepShown();
})();
