// The lever page: buttons that pour onto simulated scales.
(() => {
  "use strict";
  const send = (index, what, amount) => fetch(`/scales/${index}/${what}`, { method: "POST", body: new URLSearchParams({ amount }) });
  const place = document.getElementById("scales");
  const build = (index) => {
    const part = document.getElementById("one").content.cloneNode(true);
    const section = part.querySelector("section");
    section.id = `scale-${index}`;
    section.querySelector("h2").textContent = `Scale ${index + 1}`;
    section.querySelectorAll("[data-do]").forEach((button) => button.addEventListener("click", () => send(index, button.dataset.do, button.dataset.amount)));
    section.querySelectorAll(".lever").forEach((lever) => {
      const stop = () => send(index, "flow", 0);
      lever.addEventListener("pointerdown", () => send(index, "flow", lever.dataset.flow));
      ["pointerup", "pointerleave", "pointercancel", "blur"].forEach((name) => lever.addEventListener(name, stop));
      lever.addEventListener("keydown", (event) => { if (event.key === " " && !event.repeat) send(index, "flow", lever.dataset.flow); });
      lever.addEventListener("keyup", (event) => { if (event.key === " ") stop(); });
    });
    section.querySelector("form").addEventListener("submit", (event) => {
      event.preventDefault();
      send(index, "add", event.target.amount.value);
    });
    place.append(part);
  };
  const look = async () => {
    const told = await (await fetch("/scales")).json();
    told.forEach((scale, index) => {
      if (!document.getElementById(`scale-${index}`)) build(index);
      document.querySelector(`#scale-${index} .load`).textContent = scale.is_plugged ? `${scale.load_g.toFixed(1)} g on it` : "unplugged";
    });
  };
  const toRoom = (what, amount) => fetch(`/room/${what}`, { method: "POST", body: new URLSearchParams({ amount }) });
  document.querySelectorAll("[data-room]").forEach((button) => button.addEventListener("click",
    () => toRoom(button.dataset.room, button.dataset.amount)));
  document.querySelector("#room form").addEventListener("submit", (event) => {
    event.preventDefault();
    toRoom("set", event.target.amount.value);
  });
  const lookAtRoom = async () => {
    const room = await (await fetch("/room")).json();
    document.querySelector("#room .load").textContent = room.is_plugged ? `${room.room_c.toFixed(1)} °C in the room` : "unplugged";
  };
  lookAtRoom();
  setInterval(lookAtRoom, 1000);
  look();
  setInterval(look, 250);
})();
