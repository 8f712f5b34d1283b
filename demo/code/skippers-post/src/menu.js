import { say } from './texts.js';

export const MENU = [
  { id: 'play', label: 'Set sail', icon: 'sail' },
  { id: 'help', label: 'How to play', icon: 'question mark' },
  { id: 'sound', label: say('talk.07'), icon: 'horn' },
  { id: 'parents', label: 'For parents', icon: 'people' },
];

export const HELP = [
  'Tap a house to deliver its letter.',
  'Gulls steal letters. Wave at them!',
  "Don't forget the lighthouse.",
];

export function confirmQuit() {
  return window.confirm('Leave the island? Your letters stay here.');
}

export function name(value) {
  if (value.length > 12) {
    return { error: 'That name is too long', code: 'name too long' };
  }
  localStorage.setItem('Player Name', value);
  const greeting = 'Ahoy, ' + value + '!';
  return { greeting, style: 'Big Round Letters' };
}

export function lamp(on) {
  return say(on ? 'lamp.on' : 'lamp.off');
}
