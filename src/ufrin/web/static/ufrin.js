// Behaviour that HTML and htmx leave open: keys, marking what changed, words when the server can't be reached.
(() => {
  "use strict";
  const notice = () => document.getElementById("notice");

  // What a person has typed and the server does not know yet is newer than an answer: it stays and goes out next.
  const held = (node) => (node.type === "checkbox" || node.type === "radio" ? String(node.checked) : node.value);
  const given = (node) => {
    if (node.tagName === "SELECT") {
      const options = [...node.options];
      return (options.find((option) => option.defaultSelected) ?? options[0])?.value ?? "";
    }
    return node.type === "checkbox" || node.type === "radio" ? String(node.defaultChecked) : node.defaultValue;
  };
  const sentBy = new WeakMap();
  let sent = { form: null, known: new Map() };
  document.addEventListener("htmx:beforeSend", (event) => {
    const form = event.detail.elt.closest("form.asked");
    const nodes = [...document.querySelectorAll(".asked :is(input, select, textarea)")];
    // a form sends its own fields alone; those of the others are known as the page came with them
    const known = new Map(nodes.map((node) => [node, !form || form.contains(node) ? held(node) : given(node)]));
    sentBy.set(event.detail.xhr, { form, known });
  });
  document.addEventListener("htmx:beforeSwap", (event) => {
    sent = sentBy.get(event.detail.xhr) ?? { form: null, known: new Map() };
  });
  const isNewer = (node) => sent.known.has(node) && sent.known.get(node) !== held(node);
  // an entry that was refused is kept with the reason until its own form is answered
  const isOpenMistake = (node) => sent.form && node.matches?.(".asked .field.wrong") && !sent.form.contains(node);
  if (window.Idiomorph) {
    Idiomorph.defaults.ignoreActiveValue = true;
    Idiomorph.defaults.callbacks.beforeNodeMorphed = (node) => !isNewer(node) && !isOpenMistake(node);
    // a part of a form that was opened stays open, whatever the answer says
    Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name, node) => !(name === "open"
      && node.tagName === "DETAILS");
  }

  // What was changed on a slow line before these scripts had come is saved as soon as they have; a text that is still
  // being typed is left until it is done.
  document.addEventListener("DOMContentLoaded", () => {
    const isChanged = (node) => node.type !== "hidden" && node !== document.activeElement
      && held(node) !== given(node);
    document.querySelectorAll(".asked[hx-post]").forEach((form) => {
      [...form.querySelectorAll("input, select, textarea")].find(isChanged)
        ?.dispatchEvent(new Event("change", { bubbles: true }));
    });
  });

  const figures = new Map();
  let nextSection = "";
  document.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.target.id !== "job") return;
    nextSection = event.detail.target.dataset.nextSection;
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
    // a decision was made: the next one opens, unless somebody is typing in another
    const next = document.getElementById("job")?.dataset.nextSection ?? "";
    if (nextSection && next && next !== nextSection && !document.activeElement?.matches("input, select, textarea")) {
      document.getElementById(`section-${next}`)?.setAttribute("open", "");
    }
    nextSection = "";
  });

  document.addEventListener("htmx:beforeRequest", () => notice()?.replaceChildren());
  document.addEventListener("htmx:sendError", () => {
    const box = notice();
    if (!box) return;
    const said = document.createElement("p");
    said.className = "notice";
    said.setAttribute("role", "alert");
    said.textContent = document.body.dataset.wordsAway;
    box.replaceChildren(said);
  });

  // whatever takes longer than a moment shows at once that it is being worked on
  let waiting = 0, slow = 0;
  const busy = (on) => document.documentElement.classList.toggle("is-busy", on);
  const wait = () => { waiting += 1; slow = slow || setTimeout(() => busy(true), 250); };
  const done = () => {
    waiting = Math.max(0, waiting - 1);
    if (!waiting) { clearTimeout(slow); slow = 0; busy(false); }
  };
  document.addEventListener("htmx:beforeRequest", wait);
  document.addEventListener("htmx:afterRequest", done);
  document.addEventListener("click", (event) => {
    const link = event.target.closest("a[href]");
    const plain = !event.defaultPrevented && !event.ctrlKey && !event.metaKey && !event.shiftKey;
    // a file, whose name has a dot, is downloaded: the page stays, and nothing would say that it is done
    const isFile = link?.pathname?.split("/").pop().includes(".");
    if (link && plain && link.origin === location.origin && !link.target && !link.href.includes("#") && !isFile) wait();
  });
  document.addEventListener("submit", (event) => { if (!event.defaultPrevented) wait(); });
  window.addEventListener("pageshow", () => { waiting = 1; done(); });

  // the row of stations is swiped on a phone: the one that is open is in sight
  document.querySelector(".stations a[aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });

  // a wide table is read as rows of its own on a phone: each cell carries the head of its column, each part its role
  const ROLES = { TABLE: "table", THEAD: "rowgroup", TBODY: "rowgroup", TR: "row", TD: "cell" };
  const layAsRows = () => document.querySelectorAll(".scroll > table.sums:not(.as-rows, .matrix, .offers)").forEach((table) => {
    const heads = table.tHead ? [...table.tHead.rows[0].cells] : [];
    if (!heads.length || table.querySelector("[colspan], [rowspan]")) return;
    table.classList.add("as-rows");
    [table, ...table.querySelectorAll("thead, tbody, tr, td")].forEach((part) => part.setAttribute("role", ROLES[part.tagName]));
    table.querySelectorAll("th").forEach((one) => one.setAttribute("role", one.closest("thead") ? "columnheader" : "rowheader"));
    [...table.tBodies].flatMap((body) => [...body.rows]).forEach((row) => [...row.cells].forEach((cell, at) => {
      if (cell.tagName === "TD" && heads[at]) cell.dataset.head = heads[at].textContent.trim();
    }));
  });
  layAsRows();
  document.addEventListener("htmx:afterSettle", layAsRows);

  // a list that is narrowed down by what is typed; Enter opens the first of what is left
  document.addEventListener("input", (event) => {
    const words = event.target.dataset?.filters && event.target.value.toLowerCase().split(/\s+/);
    if (!words) return;
    document.querySelectorAll(event.target.dataset.filters).forEach((one) => {
      one.hidden = !words.every((word) => one.textContent.toLowerCase().includes(word));
    });
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Enter") return;
    const first = event.target.dataset?.filters ? `${event.target.dataset.filters}:not([hidden]) a`
      : event.target.id === "q" ? "#found a" : "";
    const link = first && document.querySelector(first);
    if (!link) return;
    event.preventDefault();
    link.click();
  });

  // drying that runs: counted down to a time that the server named
  const clock = (left) => {
    const whole = Math.max(0, Math.round(left)), hours = Math.floor(whole / 3600);
    const two = (part) => String(part).padStart(2, "0");
    const minutes = Math.floor(whole / 60) % 60;
    return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
  };
  const countDown = () => document.querySelectorAll("[data-until]").forEach((node) => {
    node.textContent = clock(Number(node.dataset.until) - Date.now() / 1000);
  });
  setInterval(countDown, 1000);

  const dialog = () => document.getElementById("keys");
  document.addEventListener("click", (event) => {
    const target = event.target.closest("[data-do]");
    if (!target) return;
    if (target.dataset.do === "keys") dialog().showModal();
    if (target.dataset.do === "close") dialog().close();
    if (target.dataset.do === "print") window.print();
  });

  // a letter may be the start of a word that was meant for a field: it leaves the page when it is pressed again
  let pressed = "", forget = 0;
  const asks = (key, link) => {
    const box = document.getElementById("jump");
    clearTimeout(forget);
    const isSure = pressed === key;
    pressed = isSure ? "" : key;
    box.hidden = isSure;
    box.textContent = isSure ? "" : `Press ${key} again to go to ${link.textContent.trim()}.`;
    forget = setTimeout(() => { pressed = ""; box.hidden = true; }, 4000);
    return !isSure;
  };

  document.addEventListener("keydown", (event) => {
    const typing = event.target.closest("input, select, textarea");
    if (event.key === "Escape" && typing) typing.blur();
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "e") {
      const input = ["[open]", ""].map((which) => document.querySelector(
        `.side .fold${which} .fold-body :is(input:not([type=hidden]), select, textarea)`)).find(Boolean);
      if (!input) return;
      event.preventDefault();
      for (let fold = input.closest("details"); fold; fold = fold.parentElement.closest("details")) fold.open = true;
      input.focus();
      return;
    }
    const keyed = `[data-key="${CSS.escape(event.key)}"]`;
    const at = document.querySelector(`input${keyed}`) ?? document.querySelector(keyed);
    if (!at) return;
    event.preventDefault();
    if (at.matches("input")) at.focus();
    else if (at.matches("a") && /[a-z]/.test(event.key) && asks(event.key, at)) return;
    else at.click();
  });
})();
