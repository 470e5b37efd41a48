// A scale's own page: what it shows now.
(() => {
  "use strict";
  const place = document.querySelector("[data-scale]");
  if (!place) return;
  const LINKS = { connecting: "connecting", reading: "read as it comes", silent: "it says nothing",
    lost: "it can't be reached; tried again by itself" };
  const source = new EventSource(place.dataset.scale);
  const say = (figure, words) => {
    place.querySelector("[data-shown]").textContent = figure;
    place.querySelector("[data-link]").textContent = words;
  };
  source.addEventListener("reading", (event) => {
    const heard = JSON.parse(event.data);
    const words = heard.state === "overload" ? "more is on it than it weighs" : heard.state === "unit"
      ? "it shows something other than a weight" : LINKS[heard.link];
    say(heard.link === "reading" && heard.g !== null ? `${heard.g} g` : "–", heard.link === "reading" && heard.state === "ok" ? `${words}, ${heard.settled ? "at rest" : "moving"}` : words);
  });
  source.addEventListener("error", () => say("–", "the server is away"));
})();
