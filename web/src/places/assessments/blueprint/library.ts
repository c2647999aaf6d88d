/** What is known of the library of blueprints, in the browser's memory. */
export const libraryKey = ['blueprints']
