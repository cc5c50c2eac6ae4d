import * as three from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { MeshBVH, acceleratedRaycast } from 'three-mesh-bvh';
import type { ShownMesh } from '@kalvet/core/weigh/index';

/** A direction or place, mm. */
export type Vec = readonly [number, number, number];

/** What is shown: the model, or the parts that it was cut into. */
export interface Shown {
  readonly mesh: ShownMesh;
  /** Fewer triangles, while it is turned. */
  readonly standIn?: Uint32Array;
  /** Three bytes a vertex; bronze where absent. */
  readonly colours?: Uint8Array;
  readonly colour?: string;
}

const BRONZE = '#a9713c';
const BACK = '#5b4632';
const TURN = 0.12;
const ZOOM = 1.15;
/** After so long without a turn the whole model is drawn again, ms. */
const STILL_MS = 180;

/** The model in a canvas: turned by drag, touch and keys; drawn only when something changed. */
export class ModelScene {
  private readonly renderer: three.WebGLRenderer;
  private readonly scene = new three.Scene();
  private readonly camera = new three.OrthographicCamera();
  private readonly controls: OrbitControls;
  private readonly lights = new three.Group();
  private readonly meshes = new three.Group();
  private readonly planes = new three.Group();
  private readonly clip = new three.Plane(new three.Vector3(1, 0, 0), 0);
  private items: { mesh: three.Mesh; whole: three.BufferAttribute; coarse: three.BufferAttribute | undefined }[] = [];
  private radius = 100;
  private drawing = 0;
  private still: ReturnType<typeof setTimeout> | undefined;
  private readonly sizes: ResizeObserver;

  /** @throws where the browser draws no WebGL */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly drawn: () => void,
  ) {
    this.renderer = new three.WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.scene.add(this.meshes, this.planes, this.camera);
    const key = new three.DirectionalLight('#ffffff', 2.9);
    key.position.set(-0.55, 0.65, 0.62);
    const fill = new three.DirectionalLight('#dfe8f2', 0.7);
    fill.position.set(0.8, 0.1, 0.45);
    this.lights.add(key, key.target, fill, fill.target);
    // Lights go with the viewer, so that form shows from everywhere.
    this.camera.add(this.lights);
    this.scene.add(new three.HemisphereLight('#ffffff', '#8a7a64', 1.3));
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.addEventListener('change', () => this.draw());
    this.controls.addEventListener('start', () => this.turning());
    this.controls.addEventListener('end', () => this.settle());
    this.sizes = new ResizeObserver(() => this.resize());
    this.sizes.observe(canvas.parentElement!);
  }

  /** Shows meshes in the place of what was there. @param keepView the same model from where it was looked at */
  show(shown: readonly Shown[], keepView: boolean): void {
    for (const { mesh } of this.items) {
      mesh.geometry.dispose();
      (mesh.material as three.Material[]).forEach((material) => material.dispose());
    }
    this.meshes.clear();
    this.items = shown.map((each) => this.itemOf(each));
    this.items.forEach(({ mesh }) => this.meshes.add(mesh));
    if (!keepView) this.lookFrom([-0.7, -1, 0.35], [0, 0, 1]);
    this.draw();
  }

  private itemOf({ mesh, standIn, colours, colour = BRONZE }: Shown) {
    const geometry = new three.BufferGeometry();
    geometry.setAttribute('position', new three.BufferAttribute(mesh.positions, 3));
    const whole = new three.BufferAttribute(mesh.triangles, 1);
    geometry.setIndex(whole);
    if (colours) geometry.setAttribute('color', new three.BufferAttribute(colours, 3, true));
    geometry.setAttribute('normal', new three.BufferAttribute(mesh.normals, 3));
    geometry.computeBoundingSphere();
    this.radius = Math.max(geometry.boundingSphere!.radius, 1e-6);
    const front = new three.MeshStandardMaterial({
      color: colours ? '#ffffff' : colour,
      vertexColors: colours !== undefined,
      roughness: 0.5,
      metalness: colours ? 0 : 0.25,
      clippingPlanes: [],
    });
    // The inside is seen where it is cut open.
    const back = new three.MeshBasicMaterial({ color: BACK, side: three.BackSide, clippingPlanes: [] });
    geometry.addGroup(0, Infinity, 0);
    geometry.addGroup(0, Infinity, 1);
    const item = new three.Mesh(geometry, [front, back] as never);
    item.position.set(...mesh.originMm);
    const coarse = standIn && standIn !== mesh.triangles ? new three.BufferAttribute(standIn, 1) : undefined;
    return { mesh: item, whole, coarse };
  }

  /** Looks at the middle of everything from a direction, with something up. */
  lookFrom(from: Vec, up: Vec): void {
    const box = new three.Box3().setFromObject(this.meshes);
    const middle = box.getCenter(new three.Vector3());
    this.radius = Math.max(1e-6, box.getSize(new three.Vector3()).length() / 2);
    const way = new three.Vector3(...from).normalize();
    this.camera.up.set(...up).normalize();
    // OrbitControls turns about what was up when it was made; it is told anew.
    const quat = new three.Quaternion().setFromUnitVectors(this.camera.up, new three.Vector3(0, 1, 0));
    const inner = this.controls as unknown as { _quat: three.Quaternion; _quatInverse: three.Quaternion };
    inner._quat = quat;
    inner._quatInverse = quat.clone().invert();
    this.controls.target.copy(middle);
    this.camera.position.copy(middle).addScaledVector(way, 4 * this.radius);
    this.camera.zoom = 1;
    this.resize();
    this.controls.update();
    this.draw();
  }

  /** Where it is looked at from, and what is up in the picture. */
  view(): { from: Vec; up: Vec } {
    const way = this.camera.position.clone().sub(this.controls.target).normalize();
    const up = new three.Vector3(0, 1, 0).applyQuaternion(this.camera.quaternion);
    return { from: [way.x, way.y, way.z], up: [up.x, up.y, up.z] };
  }

  turn(right: number, up: number): void {
    const offset = this.camera.position.clone().sub(this.controls.target);
    offset.applyAxisAngle(this.camera.up, -right * TURN);
    const side = new three.Vector3().crossVectors(this.camera.up, offset).normalize();
    const raised = offset.clone().applyAxisAngle(side, -up * TURN);
    // Not over the top, where up has no direction.
    if (Math.abs(raised.clone().normalize().dot(this.camera.up)) < 0.98) offset.copy(raised);
    this.camera.position.copy(this.controls.target).add(offset);
    this.controls.update();
    this.turning();
    this.settle();
    this.draw();
  }

  zoom(times: 1 | -1): void {
    this.camera.zoom *= times > 0 ? ZOOM : 1 / ZOOM;
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  /** Cuts what is nearest to the viewer away, by a share of the model's depth; 0 shows all. */
  open(share: number): void {
    const normal = this.camera.position.clone().sub(this.controls.target).normalize().negate();
    const at = this.controls.target.clone().addScaledVector(normal, -this.radius * (1 - 2 * share));
    this.clip.setFromNormalAndCoplanarPoint(normal, at);
    this.renderer.localClippingEnabled = share > 0;
    for (const { mesh } of this.items)
      for (const material of mesh.material as unknown as three.Material[])
        material.clippingPlanes = share > 0 ? [this.clip] : [];
    this.draw();
  }

  /** Planes that cut, as sheets of glass; one of them is chosen. */
  showPlanes(planes: readonly { normal: Vec; offsetMm: number }[], chosen: number): void {
    this.planes.clear();
    const box = new three.Box3().setFromObject(this.meshes);
    const middle = box.getCenter(new three.Vector3());
    const size = 1.15 * this.radius * 2;
    planes.forEach(({ normal, offsetMm }, i) => {
      const way = new three.Vector3(...normal);
      const length = way.length();
      way.normalize();
      const sheet = new three.Mesh(
        new three.PlaneGeometry(size * 0.8, size * 0.8),
        new three.MeshBasicMaterial({
          color: i === chosen ? '#b3261e' : '#1e5f8c',
          transparent: true,
          opacity: i === chosen ? 0.22 : 0.12,
          side: three.DoubleSide,
          depthWrite: false,
        }),
      );
      sheet.quaternion.setFromUnitVectors(new three.Vector3(0, 0, 1), way);
      sheet.position.copy(middle).addScaledVector(way, offsetMm / length - middle.dot(way));
      sheet.userData['plane'] = i;
      this.planes.add(sheet);
    });
    this.draw();
  }

  /** Where places lie on the canvas, px, and whether they are on the near side. */
  project(places: readonly Vec[]): { x: number; y: number; near: boolean }[] {
    const { clientWidth, clientHeight } = this.canvas;
    const way = this.camera.position.clone().sub(this.controls.target).normalize();
    return places.map((place) => {
      const at = new three.Vector3(...place);
      const near = at.clone().sub(this.controls.target).dot(way) > -0.15 * this.radius;
      at.project(this.camera);
      return { x: ((at.x + 1) / 2) * clientWidth, y: ((1 - at.y) / 2) * clientHeight, near };
    });
  }

  /** How many pixels a millimetre is. */
  pxPerMm(): number {
    return (this.canvas.clientHeight * this.camera.zoom) / (this.camera.top - this.camera.bottom);
  }

  /** The place of the surface under a point of the canvas; none beside it. */
  pick(clientX: number, clientY: number): Vec | undefined {
    const ray = this.ray(clientX, clientY);
    for (const { mesh, coarse } of this.items) {
      const geometry = mesh.geometry as three.BufferGeometry & { boundsTree?: MeshBVH };
      if (coarse) geometry.setIndex(coarse);
      geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
      mesh.raycast = acceleratedRaycast as never;
    }
    ray.firstHitOnly = true;
    const [hit] = ray.intersectObjects(this.meshes.children, false);
    for (const { mesh, whole, coarse } of this.items) if (coarse) mesh.geometry.setIndex(whole);
    return hit ? [hit.point.x, hit.point.y, hit.point.z] : undefined;
  }

  /** The plane under a point of the canvas. */
  pickPlane(clientX: number, clientY: number): number | undefined {
    const [hit] = this.ray(clientX, clientY).intersectObjects(this.planes.children, false);
    return hit?.object.userData['plane'] as number | undefined;
  }

  /** By how much a drag on the canvas moves a plane along its normal, mm. */
  alongNormal(normal: Vec, dx: number, dy: number): number {
    const way = new three.Vector3(...normal).normalize().applyQuaternion(this.camera.quaternion.clone().invert());
    const [sx, sy] = [way.x, -way.y];
    const seen = Math.hypot(sx, sy);
    // Seen along its normal a plane is pushed by up and down.
    if (seen < 0.15) return -dy / this.pxPerMm();
    return (dx * sx + dy * sy) / (seen * seen) / this.pxPerMm();
  }

  private ray(clientX: number, clientY: number): three.Raycaster & { firstHitOnly?: boolean } {
    const { left, top, width, height } = this.canvas.getBoundingClientRect();
    const at = new three.Vector2(((clientX - left) / width) * 2 - 1, 1 - ((clientY - top) / height) * 2);
    const ray = new three.Raycaster();
    ray.setFromCamera(at, this.camera);
    return ray;
  }

  /** Whether a drag turns the model, or something else takes it. */
  set turns(is: boolean) {
    this.controls.enabled = is;
  }

  private turning(): void {
    clearTimeout(this.still);
    for (const { mesh, coarse } of this.items) if (coarse) mesh.geometry.setIndex(coarse);
  }

  private settle(): void {
    clearTimeout(this.still);
    this.still = setTimeout(() => {
      for (const { mesh, whole } of this.items) mesh.geometry.setIndex(whole);
      this.draw();
    }, STILL_MS);
  }

  private resize(): void {
    const { clientWidth, clientHeight } = this.canvas.parentElement!;
    if (clientWidth === 0 || clientHeight === 0) return;
    this.renderer.setSize(clientWidth, clientHeight, false);
    const high = 1.06 * this.radius * Math.max(1, clientHeight / clientWidth);
    const wide = (high * clientWidth) / clientHeight;
    Object.assign(this.camera, {
      left: -wide,
      right: wide,
      top: high,
      bottom: -high,
      near: 0.01,
      far: 20 * this.radius,
    });
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  /** Draws once before the next frame, however much has changed. */
  draw(): void {
    if (this.drawing) return;
    this.drawing = requestAnimationFrame(() => {
      this.drawing = 0;
      this.renderer.render(this.scene, this.camera);
      this.drawn();
    });
  }

  end(): void {
    cancelAnimationFrame(this.drawing);
    clearTimeout(this.still);
    this.sizes.disconnect();
    this.controls.dispose();
    this.show([], true);
    cancelAnimationFrame(this.drawing);
    this.renderer.dispose();
  }
}
