"""The wires of a panel: traces read and made, its bytes over time, a stand-in that obeys them."""
