"""A project as it lies in its folder: saved in one step, held, watched, made whole, exported beside."""
