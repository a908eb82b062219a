"""What a litre that comes of itself spares: a can carried, tap water paid for."""

CAN_L = 10.0  # common practice
PRICE_M3 = 2.5  # of tap water, made-up price book
