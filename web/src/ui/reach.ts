/** Half the width that a handle of a drawing has for a finger, pixels; 0 where a mouse or pen points. */
export const REACH = matchMedia("(pointer: coarse)").matches ? 16 : 0;
