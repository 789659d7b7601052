/** What popovers are made of, in one piece. */
export { ChoiceCommand } from './ChoiceCommand';
export { Floating } from './Floating';
