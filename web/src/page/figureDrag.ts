/** What is carried when a figure is dragged onto the paper: its id. */
export const FIGURE_DRAG = 'application/x-bold-ruler-figure';
