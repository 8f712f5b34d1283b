import { say } from '../src/texts.js';
check('says what was found', () => say('item.spyglass.found') === 'Spyglass: found!');
check('A text that nobody sees', () => say('test.only'));
