defmodule Relay.MixProject do
  use Mix.Project

  def project do
    [
      app: :relay,
      # elixir: "~> 1.2",
      elixir: "~> 1.15",
      deps: []
    ]
  end
end
