/** The outline of a small water. */
export const square = {
  type: 'Polygon',
  coordinates: [
    [
      [-34, 48],
      [-33.99, 48],
      [-33.99, 48.006],
      [-34, 48.006],
      [-34, 48],
    ],
  ],
};
