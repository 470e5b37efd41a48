// Behaviour that HTML and htmx leave open: keys, marking what changed, words when the server can't be reached.
(() => {
  "use strict";
  const notice = () => document.getElementById("notice");

  // typed text and an opened part of a form belong to the person at the page, whatever the answer says
  if (window.Idiomorph) {
    Idiomorph.defaults.ignoreActiveValue = true;
    Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name, node) => !(name === "open" && node.tagName === "DETAILS");
  }

  const figures = new Map();
  document.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.target.id !== "job") return;
    figures.clear();
    document.querySelectorAll("[data-mark]").forEach((node) => figures.set(node.dataset.mark, node.textContent.trim()));
  });
  document.addEventListener("htmx:afterSettle", () => {
    document.querySelectorAll("[data-mark]").forEach((node) => {
      const before = figures.get(node.dataset.mark);
      node.classList.remove("changed");
      if (before === undefined || before === node.textContent.trim()) return;
      void node.offsetWidth; // lets the same mark run twice
      node.classList.add("changed");
    });
    figures.clear();
  });

  document.addEventListener("htmx:afterRequest", (event) => {
    const box = notice();
    if (box && event.detail.successful) box.replaceChildren();
  });
  document.addEventListener("htmx:sendError", () => {
    const box = notice();
    if (!box) return;
    const said = document.createElement("p");
    said.className = "notice";
    said.setAttribute("role", "alert");
    said.textContent = "Ufrin can't be reached, so this was not saved. What you typed is still here: change any field to try again.";
    box.replaceChildren(said);
  });

  const dialog = () => document.getElementById("keys");
  document.addEventListener("click", (event) => {
    const target = event.target.closest("[data-do]");
    if (!target) return;
    if (target.dataset.do === "keys") dialog().showModal();
    if (target.dataset.do === "close") dialog().close();
    if (target.dataset.do === "print") window.print();
  });

  document.addEventListener("keydown", (event) => {
    const typing = event.target.closest("input, select, textarea");
    if (event.key === "Escape" && typing) typing.blur();
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    const at = document.querySelector(`[data-key="${CSS.escape(event.key)}"]`);
    if (!at) return;
    event.preventDefault();
    if (at.matches("input")) at.focus();
    else at.click();
  });
})();
