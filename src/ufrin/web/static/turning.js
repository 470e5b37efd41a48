// The turning view: master, halves, parting surface, keys, gate, vents, trapped air and the liquid's level, in three
// dimensions.
import * as THREE from "./vendor/three/three.module.js";

const colour = (name) => new THREE.Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim());

function solid({ points, faces }) {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.Float32BufferAttribute(points, 3));
  geometry.setIndex(faces);
  const flat = geometry.toNonIndexed();
  flat.computeVertexNormals();
  return flat;
}

function masterOf(scene) {
  const geometry = solid(scene.master);
  const plain = colour("--d-master"), locked = colour("--d-seam");
  const colours = new Float32Array(scene.master.faces.length * 3);
  scene.master.faces.forEach((corner, index) => (scene.painted[corner] ? locked : plain).toArray(colours, index * 3));
  geometry.setAttribute("color", new THREE.BufferAttribute(colours, 3));
  return new THREE.Mesh(geometry, new THREE.MeshStandardMaterial({ vertexColors: true, roughness: 0.85,
    transparent: true, opacity: 0.92, side: THREE.DoubleSide }));
}

function surfaceOf({ low, step, shape, heights, inside }) {
  const [nx, ny] = shape, points = [], faces = [];
  for (let x = 0; x < nx; x++) for (let y = 0; y < ny; y++) {
    points.push(low[0] + x * step, low[1] + y * step, heights[x * ny + y]);
  }
  for (let x = 0; x + 1 < nx; x++) for (let y = 0; y + 1 < ny; y++) {
    const [a, b, c, d] = [x * ny + y, (x + 1) * ny + y, (x + 1) * ny + y + 1, x * ny + y + 1];
    if ([a, b, c, d].every((one) => inside[one])) faces.push(a, b, c, a, c, d);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.Float32BufferAttribute(points, 3));
  geometry.setIndex(faces);
  geometry.computeVertexNormals();
  return new THREE.Mesh(geometry, new THREE.MeshStandardMaterial({ color: colour("--d-bed"), roughness: 1,
    side: THREE.DoubleSide, transparent: true, opacity: 0.7 }));
}

function tube(at, way, length, radius, name) {
  const direction = new THREE.Vector3(...way).normalize();
  const made = new THREE.Mesh(new THREE.CylinderGeometry(radius, radius, length, 16),
    new THREE.MeshStandardMaterial({ color: colour(name), roughness: 0.6 }));
  made.position.set(...at).addScaledVector(direction, length / 2);
  made.quaternion.setFromUnitVectors(new THREE.Vector3(0, 1, 0), direction);
  return made;
}

// one view for a canvas, however often the page around it is filled afresh
const views = new WeakMap();

export async function show(section, levels) {
  const canvas = section.querySelector("canvas");
  const answer = await fetch(section.dataset.scene);
  const scene = await answer.json();
  const can = scene.master && (views.has(canvas) || document.createElement("canvas").getContext("webgl2"));
  section.classList.toggle("without", !can);
  if (!can) return;
  if (!views.has(canvas)) views.set(canvas, viewOn(canvas));
  views.get(canvas).fill(scene, section, levels);
}

function viewOn(canvas) {
  const renderer = new THREE.WebGLRenderer({ canvas, antialias: true, alpha: true });
  renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2));
  renderer.localClippingEnabled = true;
  const world = new THREE.Scene(), camera = new THREE.PerspectiveCamera(32, 2, 1, 20000);
  world.add(new THREE.HemisphereLight(0xffffff, 0x8a8a80, 2.1));
  const lamp = new THREE.DirectionalLight(0xffffff, 1.6);
  world.add(lamp);
  const asked = { phase: "cast", yaw: -0.6, pitch: 0.35, away: 1 };
  let stand = new THREE.Group(), reach = 1, set = () => {};

  function draw() {
    const { width, height } = canvas.getBoundingClientRect();
    if (!width) return;
    renderer.setSize(width, height, false);
    camera.aspect = width / Math.max(1, height);
    const away = (reach * 2.0 * asked.away) / Math.min(1, camera.aspect);
    camera.position.set(away * Math.cos(asked.pitch) * Math.sin(asked.yaw),
      -away * Math.cos(asked.pitch) * Math.cos(asked.yaw), away * Math.sin(asked.pitch));
    camera.up.set(0, 0, 1);
    camera.lookAt(0, 0, 0);
    camera.updateProjectionMatrix();
    lamp.position.copy(camera.position).add(new THREE.Vector3(reach, -reach, reach * 2));
    renderer.render(world, camera);
    canvas.drawn = (canvas.drawn ?? 0) + 1; // how often, for whoever wants to know whether it draws
  }
  const turnBy = (yaw, pitch) => {
    asked.yaw += yaw;
    asked.pitch = Math.max(-1.5, Math.min(1.5, asked.pitch + pitch));
    draw();
  };
  const come = (factor) => {
    asked.away = Math.max(0.35, Math.min(4, asked.away * factor));
    draw();
  };

  const fingers = new Map();
  canvas.addEventListener("pointerdown", (event) => {
    canvas.setPointerCapture(event.pointerId);
    fingers.set(event.pointerId, [event.clientX, event.clientY]);
  });
  canvas.addEventListener("pointermove", (event) => {
    const was = fingers.get(event.pointerId);
    if (!was) return;
    const now = [event.clientX, event.clientY];
    if (fingers.size === 2) {
      const other = [...fingers.entries()].find(([id]) => id !== event.pointerId)[1];
      come(Math.hypot(was[0] - other[0], was[1] - other[1]) /
        Math.max(1, Math.hypot(now[0] - other[0], now[1] - other[1])));
    } else turnBy(-(now[0] - was[0]) * 0.008, (now[1] - was[1]) * 0.008);
    fingers.set(event.pointerId, now);
  });
  for (const name of ["pointerup", "pointercancel"]) canvas.addEventListener(name,
    (event) => fingers.delete(event.pointerId));
  canvas.addEventListener("wheel", (event) => {
    event.preventDefault();
    come(event.deltaY > 0 ? 1.1 : 1 / 1.1);
  }, { passive: false });
  canvas.addEventListener("keydown", (event) => {
    const deeds = { ArrowLeft: () => turnBy(0.12, 0), ArrowRight: () => turnBy(-0.12, 0),
      ArrowUp: () => turnBy(0, 0.12), ArrowDown: () => turnBy(0, -0.12), "+": () => come(0.87), "-": () => come(1.15) };
    if (!deeds[event.key]) return;
    event.preventDefault();
    event.stopPropagation();
    deeds[event.key]();
  });
  const shown = { surface: true, master: true };
  document.addEventListener("change", (event) => {
    if (event.target.name === "turning-phase") asked.phase = event.target.value;
    else if (event.target.dataset?.shows) shown[event.target.dataset.shows] = event.target.checked;
    else return;
    set();
  });
  document.addEventListener("ufrin:level", (event) => {
    if ((event.detail.phase === "cast") === (asked.phase === "cast")) set();
  });
  new ResizeObserver(draw).observe(canvas);

  function fill(scene, section, levels) {
    asked.phase = section.querySelector("[name=turning-phase]:checked")?.value ?? "cast";
    const low = new THREE.Vector3(...scene.box.low), high = new THREE.Vector3(...scene.box.high);
    const size = high.clone().sub(low), middle = low.clone().add(high).multiplyScalar(0.5);
    reach = size.length();
    const thing = new THREE.Group(); // in the box's own coordinates; turned as the mould is held when the cast is looked at
    world.remove(stand);
    stand.traverse((one) => one.geometry?.dispose());
    stand = new THREE.Group();
    stand.add(thing);
    world.add(stand);
    const master = masterOf(scene);
    thing.add(master);
    for (const [x, y, z, turned] of scene.others) {
      const [x0, y0, z0] = scene.shift;
      const copy = new THREE.Mesh(master.geometry, master.material), place = new THREE.Group();
      copy.position.set(-x0, -y0, -z0);
      place.add(copy);
      place.position.set(x, y, z);
      place.rotation.z = (turned * Math.PI) / 180;
      thing.add(place);
    }
    const walls = new THREE.LineSegments(new THREE.EdgesGeometry(new THREE.BoxGeometry(...size.toArray())),
      new THREE.LineBasicMaterial({ color: colour("--d-thin") }));
    walls.position.copy(middle);
    thing.add(walls);
    const surface = scene.surface ? surfaceOf(scene.surface) : null;
    if (surface) thing.add(surface);
    const heightAt = (x, y) => {
      const { low: corner, step, shape, heights } = scene.surface;
      const i = Math.min(shape[0] - 1, Math.max(0, Math.round((x - corner[0]) / step))),
        j = Math.min(shape[1] - 1, Math.max(0, Math.round((y - corner[1]) / step)));
      return heights[i * shape[1] + j];
    };
    if (surface) for (const [x, y, across] of scene.keys) {
      const key = new THREE.Mesh(new THREE.SphereGeometry(across / 2, 24, 12),
        new THREE.MeshStandardMaterial({ color: colour("--d-rubber") }));
      key.position.set(x, y, heightAt(x, y));
      thing.add(key);
    }
    // what belongs to the cast is told in coordinates of the mould as it is held
    const [a, b, c] = scene.turn, shift = new THREE.Vector3(...scene.shift);
    const turn = new THREE.Matrix4().set(a[0], a[1], a[2], 0, b[0], b[1], b[2], 0, c[0], c[1], c[2], 0, 0, 0, 0, 1);
    const heldToBox = new THREE.Matrix4().makeTranslation(shift.x, shift.y, shift.z).multiply(turn.clone().transpose());
    const cast = new THREE.Group();
    cast.applyMatrix4(heldToBox);
    thing.add(cast);
    scene.gates.forEach(({ at, way }) => cast.add(tube(at, way, reach * 0.28, reach * 0.016, "--d-thin")));
    scene.vents.forEach(({ at, way }) => cast.add(tube(at, way, reach * 0.28, reach * 0.007, "--d-fill")));
    const airOf = (blocks) => {
      const group = new THREE.Group();
      blocks.forEach((block) => group.add(new THREE.Mesh(solid(block),
        new THREE.MeshStandardMaterial({ color: colour("--d-air"), emissive: colour("--d-air"),
        emissiveIntensity: 0.35 }))));
      return group;
    };
    const castAir = airOf(scene.cast_air), rubberAir = airOf(scene.rubber_air);
    cast.add(castAir);
    const rubberShift = new THREE.Group();
    rubberShift.position.copy(shift);
    rubberShift.add(rubberAir);
    thing.add(rubberShift);

    // the liquid: in the cast, the master's own body below the level; in the rubber pour, the box below it
    const cut = new THREE.Plane(new THREE.Vector3(0, 0, -1), 0);
    const filled = new THREE.Mesh(master.geometry, new THREE.MeshStandardMaterial({ color: colour("--d-cast"),
      roughness: 0.7, side: THREE.DoubleSide, clippingPlanes: [cut] }));
    thing.add(filled);
    const bath = new THREE.Mesh(new THREE.BoxGeometry(1, 1, 1),
      new THREE.MeshStandardMaterial({ color: colour("--d-rubber"), transparent: true, opacity: 0.28,
      depthWrite: false }));
    thing.add(bath);
    set = () => {
      const isCast = asked.phase === "cast";
      stand.matrixAutoUpdate = false;
      const centre = new THREE.Matrix4().makeTranslation(-middle.x, -middle.y, -middle.z);
      stand.matrix.copy(isCast ? turn.clone().multiply(centre) : centre);
      filled.visible = isCast;
      castAir.visible = isCast;
      rubberAir.visible = bath.visible = !isCast;
      master.material.opacity = isCast ? 0.22 : 0.95;
      master.material.depthWrite = !isCast;
      const share = (isCast ? levels.cast : levels.mould) / 100;
      if (isCast) {
        const [foot, top] = scene.cast_levels;
        const zero = middle.clone().sub(shift).applyMatrix4(turn).z;
        cut.constant = foot + (top - foot) * share - zero + 0.01;
      } else {
        const depth = Math.max(0.01, size.z * share);
        bath.scale.set(size.x * 0.999, size.y * 0.999, depth);
        bath.position.set(middle.x, middle.y, low.z + depth / 2);
      }
      if (surface) surface.visible = shown.surface;
      master.visible = shown.master;
      draw();
    };
    set();
  }
  return { fill };
}
