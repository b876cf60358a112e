# frozen_string_literal: true

module Server
  module Records
    # When something holds of a cart, then something is done to methods.
    class Rule < Base
      says :name, :active, :when, :then

      include Policy

      # A rule whose conditions named only what goes would hold of other carts: it is off from then on. Actions on
      # methods that go are taken away, and a rule that does nothing any more goes too.
      # @param kind [String]
      # @param gone [String]
      # @return [void]
      def forget(kind, gone)
        self[:when], lost = pruned(self[:when], kind, gone)
        self[:then] = self[:then].filter_map { |action| without(action, gone) } if kind == "method"
        return destroy! if self[:then].empty?

        self.active = false if lost
        save! if changed?
      end

      private

      def read(item, store) = GateMile::Rule.read(item, store.money)

      def pruned(tree, kind, gone)
        of, parts = tree.first
        lost = false
        left = parts.filter_map do |part|
          next prune(part, gone, kind).tap { |kept| lost ||= kept.nil? } if part.key?("fact")

          inner, deeper = pruned(part, kind, gone)
          lost ||= deeper
          inner
        end
        [{ of => left }, lost]
      end

      def prune(condition, gone, kind)
        return condition unless condition["fact"] == kind && condition["of"].include?(gone)

        left = condition["of"] - [gone]
        left.empty? ? nil : condition.merge("of" => left)
      end

      def without(action, gone)
        return action unless action["methods"]&.include?(gone)

        left = action["methods"] - [gone]
        left.empty? ? nil : action.merge("methods" => left)
      end
    end
  end
end
