/** A picture of a ship, 64 by 40 points, as a PNG: the harbour's photographs are made up like all of it. */
const PICTURE =
  'iVBORw0KGgoAAAANSUhEUgAAAEAAAAAoCAMAAAB5EAzbAAAAD1BMVEWWvtwoUHh4KCjw8OsUHigP0cCvAAAAQUlEQVR42mNgGAWjgEjAAgSjBgycAcxoYNSA4W4AE4mAUhModQOlvqA0HCgNSQYK4wJ/xJOun5FCMGrAqAFUMQAAlykG8Zds4mgAAAAASUVORK5CYII=';

/** The picture's bytes. */
export const picture = (): Uint8Array => Uint8Array.from(atob(PICTURE), (letter) => letter.charCodeAt(0));
