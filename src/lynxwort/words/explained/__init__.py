"""What is explained to who asks: words of the trade, and what each drawing shows."""
