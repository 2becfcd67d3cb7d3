"""What goes over the wires of a panel: traces read and made, its bytes as time goes by, a stand-in that obeys them."""
