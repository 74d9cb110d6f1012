package hardproof.server.criteria;

import jakarta.validation.constraints.NotBlank;

/** A criterion that people wrote for themselves, as they edit it. */
record OwnForm(
    @NotBlank String code,
    @NotBlank String title,
    @NotBlank String demand,
    @NotBlank String expression) {}
