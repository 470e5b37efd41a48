// A scale's own page: what it shows now.
(() => {
  "use strict";
  const place = document.querySelector("[data-scale]");
  if (!place) return;
  const told = place.dataset;
  const LINKS = { connecting: told.wordsConnecting, reading: told.wordsReading, silent: told.wordsSilent,
    lost: told.wordsLost };
  const STATES = { overload: told.wordsOverload, unit: told.wordsUnit };
  const source = new EventSource(told.scale);
  const say = (figure, words) => {
    place.querySelector("[data-shown]").textContent = figure;
    place.querySelector("[data-link]").textContent = words;
  };
  source.addEventListener("reading", (event) => {
    const heard = JSON.parse(event.data);
    const words = STATES[heard.state] ?? LINKS[heard.link];
    const reads = heard.link === "reading";
    const rest = heard.settled ? told.wordsRest : told.wordsMoving;
    say(reads && heard.g !== null ? `${heard.g} g` : "–", reads && heard.state === "ok" ? `${words}, ${rest}` : words);
  });
  source.addEventListener("error", () => say("–", told.wordsAway));
})();
