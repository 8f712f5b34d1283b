// Draws what people see. Nothing in here is to be translated.
const FONT = '24px "Post Sans", sans-serif';

export function bubble(text) {
  draw('bubble', text);
}

export function banner(text) {
  draw('banner', text);
}

export function playSound(name) {
  draw('sound', name.toLowerCase().replaceAll(' ', '-') + '.ogg');
}

export function loadSprite(name, path) {
  draw('sprite', path || 'sprites/' + name);
}

function draw(kind, what) {
  document.dispatchEvent(new CustomEvent('stage:' + kind, { detail: what + FONT }));
}
