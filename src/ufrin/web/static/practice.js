// The table of a practice: the weight that was read goes with a step, and the space bar tips the tin and puts it upright.
(() => {
  "use strict";
  const main = document.getElementById("main");
  document.addEventListener("htmx:configRequest", (event) => {
    if (event.detail.parameters.by === "scale" && main.dataset.shows) event.detail.parameters.shows = `${main.dataset.shows} g`;
  });
  // a hand at the table moves what is on the scale: no weight is taken until it has had the time to come to rest
  const touches = (event) => event.detail.requestConfig.elt.closest("#table");
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (!touches(event)) return;
    main.dataset.restsFrom = "Infinity";
    document.querySelectorAll("#weigh [data-needs]").forEach((button) => { button.disabled = true; });
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (touches(event)) main.dataset.restsFrom = performance.now() + Number(document.getElementById("table").dataset.restsMs);
  });
  // what is in the cup rises with what the scale shows
  const rise = () => {
    const content = document.querySelector("#table [data-content]");
    if (!content || !main.dataset.shows) return;
    const { foot, most, full, cup } = content.dataset;
    const high = Math.max(0, Math.min(1, (Number(main.dataset.shows) - Number(cup)) / Number(full))) * Number(most);
    content.setAttribute("height", high.toFixed(1));
    content.setAttribute("y", (Number(foot) - high).toFixed(1));
  };
  new MutationObserver(rise).observe(main, { attributeFilter: ["data-readings"] });
  document.addEventListener("keydown", (event) => {
    if (event.key !== " " || event.repeat || event.target.closest("input, select, textarea, button, a, summary")) return;
    const button = document.querySelector("#table [data-space]");
    if (button) { event.preventDefault(); button.click(); }
  });
})();
