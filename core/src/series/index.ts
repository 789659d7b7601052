export { leastSquares, predict, type Interval, type Line } from './leastSquares';
export { movingMean, type Window } from './movingMean';
export { holtWinters, smoothedWith, type Season, type Smoothed, type Weights } from './holtWinters';
export { backtest, forecast, stepsNeeded, type ForecastWish, type SeriesMethod } from './forecast';
export { studentBoth, studentCdf } from './studentT';
