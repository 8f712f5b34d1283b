import { say } from './texts.js';
import { bubble, banner, playSound, loadSprite } from './stage.js';

const ITEMS = ['brass-key', 'old-map', 'rope', 'lantern', 'compass'];

export function start(player) {
  loadSprite('Gull Flying', 'sprites/gull.png');
  playSound('Wind And Waves');
  bubble(say('talk.01', 'Ahoy! The mail is late again.'));
  bubble(say('talk.05', 'Deliver {n} letters before sunset.', { n: player.letters }));
  banner('The storm is over!');
  console.info('game started for ' + player.name);
}

export function found(item) {
  if (!ITEMS.includes(item)) {
    throw new RangeError('no such thing: ' + item);
  }
  bubble(say(`item.${item}.found`));
  banner(say('item.' + item + '.name'));
}

export function meet(who) {
  switch (who) {
    case 'The Gull':
      bubble("The gull looks at you and says nothing.");
      break;
    case 'postmaster':
      bubble(say('talk.02', 'Who took my cookie tin?'));
      break;
    default:
      bubble(say('talk.stranger', 'I do not know you, {name}.', { who }));
  }
}

export function over(letters, all) {
  const title = letters === all ? 'All letters delivered!' : `You delivered ${letters} of ${all} letters`;
  banner(title);
  return { title, button: say('talk.09', 'Play again'), state: 'game-over' };
}
