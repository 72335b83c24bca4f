/** The empty house that those of the tests are copies of. */
export const houseTemplate = 'house_template';
