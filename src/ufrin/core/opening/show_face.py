"""The show face: which surfaces belong to the face that visitors see."""

ON_SHOW_COSINE = 0.5  # a surface within 60 degrees of the direction of the show face belongs to it; our choice
