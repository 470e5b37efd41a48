// The Opening station: sliders that raise the liquid, numbers that are dragged, and the turning view when it comes
// into sight.
(() => {
  "use strict";
  const levels = { mould: 100, cast: 100 };

  function raise(phase) {
    document.querySelectorAll(`#view-${phase}-front .d-liquid, #view-${phase}-side .d-liquid`).forEach((rect) => {
      const top = Number(rect.dataset.top), foot = Number(rect.dataset.foot);
      const y = foot - ((foot - top) * levels[phase]) / 100;
      rect.setAttribute("y", y);
      rect.setAttribute("height", Math.max(0, foot - y + 1));
    });
    document.dispatchEvent(new CustomEvent("ufrin:level", { detail: { phase, share: levels[phase] / 100 } }));
  }
  document.addEventListener("input", (event) => {
    const phase = event.target.dataset?.raises;
    if (!phase) return;
    levels[phase] = Number(event.target.value);
    document.querySelectorAll(`[data-raises=${phase}]`).forEach((slider) => (slider.value = levels[phase]));
    raise(phase);
  });
  document.addEventListener("htmx:afterSettle", () => {
    document.querySelectorAll("[data-raises]").forEach((slider) => {
      slider.value = levels[slider.dataset.raises];
      raise(slider.dataset.raises);
    });
    begin();
  });

  // a number is dragged over its drawing; where it is let go is sent, and the server puts it on the nearest surface
  let held = null;
  const at = (svg, event) => {
    const box = svg.getBoundingClientRect(), view = svg.viewBox.baseVal;
    const x = ((event.clientX - box.left) / box.width) * view.width,
      y = ((event.clientY - box.top) / box.height) * view.height;
    const px = Number(svg.dataset.px);
    return [Number(svg.dataset.across) + (x - Number(svg.dataset.left)) / px,
      Number(svg.dataset.up) + (Number(svg.dataset.foot) - y) / px];
  };
  document.addEventListener("pointerdown", (event) => {
    const group = event.target.closest?.("[data-place]");
    const svg = group?.closest("svg[data-view]");
    if (!svg) return;
    event.preventDefault();
    held = { group, svg, from: [event.clientX, event.clientY] };
    group.setPointerCapture?.(event.pointerId);
  });
  document.addEventListener("pointermove", (event) => {
    if (!held) return;
    const scale = held.svg.viewBox.baseVal.width / held.svg.getBoundingClientRect().width;
    const [x, y] = held.from;
    held.group.setAttribute("transform", `translate(${(event.clientX - x) * scale} ${(event.clientY - y) * scale})`);
  });
  document.addEventListener("pointercancel", () => {
    held?.group.removeAttribute("transform");
    held = null;
  });
  document.addEventListener("pointerup", (event) => {
    if (!held) return;
    const { group, svg, from } = held;
    held = null;
    if (Math.hypot(event.clientX - from[0], event.clientY - from[1]) < 4) {
      group.removeAttribute("transform");
      return;
    }
    const [across, up] = at(svg, event);
    const form = document.getElementById("drag");
    const said = { kind: group.dataset.place, number: group.dataset.number, across: "", up: "", deep: "" };
    if (svg.dataset.view === "plan") Object.assign(said, { across: `${across.toFixed(2)} mm`, deep: `${up.toFixed(2)} mm` });
    if (svg.dataset.view === "front") Object.assign(said, { across: `${across.toFixed(2)} mm`, up: `${up.toFixed(2)} mm` });
    if (svg.dataset.view === "side") Object.assign(said, { deep: `${across.toFixed(2)} mm`, up: `${up.toFixed(2)} mm` });
    Object.entries(said).forEach(([name, value]) => (form.elements[name].value = value));
    form.requestSubmit();
  });

  // the turning view is loaded when it comes into sight, and filled again when what it shows has changed
  let filled = "", inSight = false, watching = null;
  const fill = async (section) => {
    if (filled === section.dataset.scene) return;
    filled = section.dataset.scene;
    try {
      await (await import("./turning.js")).show(section, levels);
    } catch {
      section.classList.add("without");
    }
  };
  function begin() {
    const section = document.getElementById("turning");
    if (!section) return;
    if (section === watching) {
      if (inSight) fill(section);
      return;
    }
    watching = section;
    new IntersectionObserver((entries) => {
      inSight = entries.at(-1).isIntersecting;
      if (inSight) fill(section);
    }).observe(section);
  }
  begin();
})();
