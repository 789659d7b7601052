export { Problem, isProblem, counted, type Fix, listed, someOf, type Place, thousands } from './problem';
export { nearest, didYouMean } from './nearest';
export { received, sent, sentProblem, type Sent, type SentProblem } from './sent';
