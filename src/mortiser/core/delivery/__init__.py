"""What a piece is delivered as: outputs, orders, names, sizes, what formats hold, the text beside it."""
