// The plan: a step is dragged along its lane to another time, which goes to the server as if it had been typed.
(() => {
  "use strict";
  const STEP_S = 300; // where a dragged step comes to lie: full five minutes
  const FAR_PX = 4; // less is a tap, not a drag
  let dragged = null;
  const place = (svg, event) => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return point.x;
  };
  const at = (marks, find, from, to) => {
    let number = 1;
    while (number < marks.length - 1 && marks[number][from] < find) number += 1;
    const [begin, end] = [marks[number - 1], marks[number]];
    return begin[to] + (find - begin[from]) / ((end[from] - begin[from]) || 1) * (end[to] - begin[to]);
  };
  document.addEventListener("pointerdown", (event) => {
    const link = event.target.closest?.("[data-drag]");
    if (!link || event.button !== 0) return;
    const svg = link.closest("svg");
    dragged = { link, svg, from: place(svg, event), marks: JSON.parse(svg.dataset.axis), moved: 0 };
  });
  document.addEventListener("pointermove", (event) => {
    if (!dragged) return;
    dragged.moved = place(dragged.svg, event) - dragged.from;
    if (Math.abs(dragged.moved) < FAR_PX) return;
    event.preventDefault();
    dragged.link.classList.add("is-dragged");
    dragged.link.setAttribute("transform", `translate(${dragged.moved} 0)`);
  });
  document.addEventListener("pointerup", () => {
    if (!dragged) return;
    const { link, marks, moved } = dragged;
    dragged = null;
    link.classList.remove("is-dragged");
    if (Math.abs(moved) < FAR_PX) return;
    link.addEventListener("click", (event) => event.preventDefault(), { once: true });
    const began = Number(link.dataset.from);
    const seconds = at(marks, at(marks, began, 1, 0) + moved, 0, 1);
    const form = document.getElementById("drag");
    form.elements.step.value = link.dataset.drag;
    form.elements.begins.value = `@${Math.round(seconds / STEP_S) * STEP_S}`;
    form.requestSubmit();
  });
  document.addEventListener("pointercancel", () => {
    dragged?.link.removeAttribute("transform");
    dragged = null;
  });
  document.addEventListener("dragstart", (event) => { if (event.target.closest?.("[data-drag]")) event.preventDefault(); });
})();
