"""The coupling: the stages in their fixed order, and what each station says about them."""
