export { claimWords, holds, suggestionsOf, type Suggestion } from './suggest';
